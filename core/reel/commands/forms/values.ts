import { fits, framingSubjects, type Fit, type FramingSubject } from '#core/framing';
import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsString,
  IsUUID,
  Length,
  Matches,
  Max,
  Min,
  Validate,
  ValidateNested,
  ValidatorConstraint,
  type ValidationArguments,
  type ValidatorConstraintInterface,
} from 'class-validator';
import { nested, optional, orNull, signedShare, trimmed } from '#core/checks';
import { mostVoices } from '#core/voices';
import { languageTag } from '#core/words';
import { captionFontNames, type CaptionFont } from '#core/captions';
import { transitionKinds, titleKinds, type TitleKind, type TransitionKind } from '../../types';

/** What the commands of a reel carry, as it may come from outside. What fits a reel is decided when it is applied. */
export const itemId = /^[0-9a-f][0-9a-f-]{35}(\.\d+)*$/;
export class TransitionForm {
  @IsIn(transitionKinds) kind!: TransitionKind;
  @IsInt() @Min(2) frames!: number;
}
export class LookForm {
  @signedShare() exposure!: number;
  @signedShare() contrast!: number;
  @signedShare() saturation!: number;
  @signedShare() temperature!: number;
  @optional() @IsString() @Length(1, 40) named?: string;
  @optional() @IsUUID('all') lut?: string;
}
class FrameForm {
  @signedShare() x!: number;
  @signedShare() y!: number;
  @signedShare() width!: number;
  @signedShare() height!: number;
}
export class StillMoveForm {
  @nested(() => FrameForm) from!: FrameForm;
  @nested(() => FrameForm) to!: FrameForm;
}
export class SteadyForm {
  @signedShare() position!: number;
  @signedShare() rotation!: number;
  @signedShare() scale!: number;
  @IsIn(['crop', 'fill']) edges!: 'crop' | 'fill';
}
class KeyForm {
  @IsNumber() @Min(0) seconds!: number;
  @signedShare() x!: number;
  @signedShare() y!: number;
}
const isPoint = (value: unknown): boolean =>
  Array.isArray(value) &&
  value.length === 3 &&
  value.every((part) => typeof part === 'number' && Number.isFinite(part));
@ValidatorConstraint({ name: 'path' })
class IsPath implements ValidatorConstraintInterface {
  validate(value: unknown): boolean {
    return Array.isArray(value) && value.length > 0 && value.length <= 20_000 && value.every(isPoint);
  }
  defaultMessage(): string {
    return 'A path is a list of seconds with two shares of the picture.';
  }
}
export class FramingForm {
  @Matches(framingSubjects) subject!: FramingSubject;
  @IsNumber() @Min(1) @Max(4) zoom!: number;
  @IsArray() @ArrayMaxSize(500) @ValidateNested({ each: true }) @Type(() => KeyForm) keys!: KeyForm[];
  @Validate(IsPath) path!: [number, number, number][];
  @optional() @Validate(IsPath) below?: [number, number, number][];
  @optional() @IsString() @Length(0, 80) follows?: string;
}
export class ClipForm {
  @Matches(itemId) id!: string;
  @IsUUID('all') media!: string;
  @IsString() @Length(1, 200) name!: string;
  @IsNumber() @Min(0) sourceIn!: number;
  @IsInt() @Min(1) frames!: number;
  @optional() @IsInt() @Min(0) @Max(400) speed?: number;
  @optional() @IsNumber() levelDb?: number;
  @optional() @IsBoolean() muted?: boolean;
  @optional() @IsInt() @Min(0) fadeIn?: number;
  @optional() @IsInt() @Min(0) fadeOut?: number;
  @optional() @nested(() => LookForm) look?: LookForm;
  @optional() @IsIn(fits) fit?: Fit;
  @optional() @nested(() => StillMoveForm) move?: StillMoveForm;
  @optional() @nested(() => SteadyForm) steady?: SteadyForm;
  @optional() @nested(() => FramingForm) framing?: FramingForm;
  @optional() @Matches(itemId) link?: string;
  @optional() @IsString() @Length(1, 500) reason?: string;
}
export class MusicForm {
  @IsUUID('all', { message: 'Choose a piece of music.' }) media!: string;
  @IsString() @Length(1, 300) name!: string;
  @IsNumber() levelDb!: number;
  @IsNumber() @Min(0) startSeconds!: number;
  @IsNumber() duckDb!: number;
  @optional() @IsNumber() @Min(0.05) @Max(10) sinkSeconds?: number;
  @optional() @IsNumber() @Min(0.05) @Max(10) riseSeconds?: number;
  @IsNumber() @Min(0) @Max(60) fadeInSeconds!: number;
  @IsNumber() @Min(0) @Max(60) fadeOutSeconds!: number;
}
export class SourceStartForm {
  @optional() @Matches(itemId) id?: string;
  @IsUUID('all') media!: string;
  @IsString() @Length(1, 200) name!: string;
  @IsNumber() sourceIn!: number;
}
export class SizeForm {
  @IsInt() @Min(16) @Max(4096) width!: number;
  @IsInt() @Min(16) @Max(4096) height!: number;
}
@ValidatorConstraint({ name: 'fps' })
class IsPlayable implements ValidatorConstraintInterface {
  validate(_: unknown, about?: ValidationArguments): boolean {
    const { num, den } = about!.object as RateForm;
    return num / den >= 1 && num / den <= 240;
  }
  defaultMessage(): string {
    return 'A reel has 1 to 240 frames a second.';
  }
}
export class RateForm {
  @Validate(IsPlayable)
  @IsInt()
  @Min(1)
  @Max(1_000_000)
  num!: number;
  @IsInt() @Min(1) @Max(1_000_000) den!: number;
}
export class MarkerForm {
  @IsUUID('all') id!: string;
  @IsInt() @Min(0) frame!: number;
  @IsString() @Length(0, 300, { message: 'A note has at most 300 characters.' }) note!: string;
}
export class TitleForm {
  @IsUUID('all') id!: string;
  @IsIn(titleKinds) kind!: TitleKind;
  @IsInt() @Min(0) frame!: number;
  @IsInt() @Min(2) frames!: number;
  @trimmed() @IsString() @Length(1, 200, { message: 'A title has 1 to 200 characters.' }) text!: string;
  @optional() @IsString() @Length(0, 200) sub?: string;
}

const colour = ({ each = false } = {}) =>
  Matches(/^#[0-9a-f]{6}([0-9a-f]{2})?$/i, { message: 'A colour is written like #ffc95c.', each });
export class CaptionStyleForm {
  @IsIn(captionFontNames, { message: 'Choose a font that ships with the application.' }) font!: CaptionFont;
  @IsNumber() @Min(2) @Max(16) size!: number;
  @colour() colour!: string;
  @colour() lit!: string;
  @colour() emphasis!: string;
  @colour() outline!: string;
  @IsNumber() @Min(0) @Max(30) outlineWidth!: number;
  @orNull() @colour() box!: string | null;
  @IsNumber() @Min(0.05) @Max(0.95) place!: number;
  @IsBoolean() upper!: boolean;
  @IsIn(['none', 'fade', 'pop']) motion!: 'none' | 'fade' | 'pop';
  @IsInt() @Min(10) @Max(84) letters!: number;
  @optional() @IsArray() @ArrayMaxSize(mostVoices) @colour({ each: true }) speakers?: string[];
  @optional() @Matches(languageTag, { message: 'A language is written like de or pt-BR.' }) second?: string;
}
export class LogoForm {
  @IsUUID('all', { message: 'Choose a picture.' }) media!: string;
  @IsIn(['top left', 'top right', 'bottom left', 'bottom right']) corner!:
    'top left' | 'top right' | 'bottom left' | 'bottom right';
  @IsNumber() @Min(0.03) @Max(0.6) size!: number;
  @IsNumber() @Min(0.05) @Max(1) opacity!: number;
}
