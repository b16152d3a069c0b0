import 'reflect-metadata';
import { Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Matches,
  Max,
  Min,
  Validate,
  ValidateIf,
  ValidateNested,
  ValidatorConstraint,
  type ValidationArguments,
  type ValidatorConstraintInterface,
} from 'class-validator';
import { captionFontNames } from '#core/captions';
import {
  framingSubjects,
  outputFormats,
  qualities,
  transitionKinds,
  type CaptionFont,
  type OutputFormat,
  type Quality,
  type ReelCommand,
  type TransitionKind,
} from '#core/reel';

/** Edits of a reel as the screens send them, a class for each; what fits the reel is decided in `core/reel`. */
export const itemId = /^[0-9a-f][0-9a-f-]{35}(\.\d+)*$/;
const trimmed = () => Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.trim() : value));
const or = () => ValidateIf((_, value) => value !== null);
export const nested = (type: () => new () => object) => (target: object, key: string) => {
  ValidateNested()(target, key);
  IsObject()(target, key);
  Type(type)(target, key);
};
const share = () => (target: object, key: string) => {
  IsNumber()(target, key);
  Min(-1)(target, key);
  Max(1)(target, key);
};

export class TransitionDto {
  @IsIn(transitionKinds) kind!: TransitionKind;
  @IsInt() @Min(2) frames!: number;
}
export class LookDto {
  @share() exposure!: number;
  @share() contrast!: number;
  @share() saturation!: number;
  @share() temperature!: number;
  @IsOptional() @IsString() @Length(1, 40) named?: string;
  @IsOptional() @IsUUID('all') lut?: string;
}
class FrameDto {
  @share() x!: number;
  @share() y!: number;
  @share() width!: number;
  @share() height!: number;
}
class StillMoveDto {
  @nested(() => FrameDto) from!: FrameDto;
  @nested(() => FrameDto) to!: FrameDto;
}
class SteadyDto {
  @share() position!: number;
  @share() rotation!: number;
  @share() scale!: number;
  @IsIn(['crop', 'fill']) edges!: 'crop' | 'fill';
}
export class ClipDto {
  @Matches(itemId) id!: string;
  @IsUUID('all') media!: string;
  @IsString() @Length(1, 200) name!: string;
  @IsNumber() @Min(0) sourceIn!: number;
  @IsInt() @Min(1) frames!: number;
  @IsOptional() @IsInt() @Min(0) @Max(400) speed?: number;
  @IsOptional() @IsNumber() levelDb?: number;
  @IsOptional() @IsBoolean() muted?: boolean;
  @IsOptional() @IsInt() @Min(0) fadeIn?: number;
  @IsOptional() @IsInt() @Min(0) fadeOut?: number;
  @IsOptional() @nested(() => LookDto) look?: LookDto;
  @IsOptional() @IsIn(['fill', 'blur', 'bars']) fit?: string;
  @IsOptional() @nested(() => StillMoveDto) move?: StillMoveDto;
  @IsOptional() @nested(() => SteadyDto) steady?: SteadyDto;
  @IsOptional() @nested(() => FramingDto) framing?: FramingDto;
  @IsOptional() @Matches(itemId) link?: string;
}
export class MusicDto {
  @IsUUID('all', { message: 'Choose a piece of music.' }) media!: string;
  @IsString() @Length(1, 300) name!: string;
  @IsNumber() levelDb!: number;
  @IsNumber() @Min(0) startSeconds!: number;
  @IsNumber() duckDb!: number;
  @IsOptional() @IsNumber() @Min(0.05) @Max(10) sinkSeconds?: number;
  @IsOptional() @IsNumber() @Min(0.05) @Max(10) riseSeconds?: number;
  @IsNumber() @Min(0) @Max(60) fadeInSeconds!: number;
  @IsNumber() @Min(0) @Max(60) fadeOutSeconds!: number;
}
class SourceStartDto {
  @IsOptional() @Matches(itemId) id?: string;
  @IsUUID('all') media!: string;
  @IsString() @Length(1, 200) name!: string;
  @IsNumber() sourceIn!: number;
}
export class SizeDto {
  @IsInt() @Min(16) @Max(4096) width!: number;
  @IsInt() @Min(16) @Max(4096) height!: number;
}
@ValidatorConstraint({ name: 'fps' })
class IsPlayable implements ValidatorConstraintInterface {
  validate(_: unknown, about?: ValidationArguments): boolean {
    const { num, den } = about!.object as RateDto;
    return num / den >= 1 && num / den <= 240;
  }
  defaultMessage(): string {
    return 'A reel has 1 to 240 frames a second.';
  }
}
export class RateDto {
  @Validate(IsPlayable)
  @IsInt()
  @Min(1)
  @Max(1_000_000)
  num!: number;
  @IsInt() @Min(1) @Max(1_000_000) den!: number;
}
export class MarkerDto {
  @IsUUID('all') id!: string;
  @IsInt() @Min(0) frame!: number;
  @IsString() @Length(0, 300, { message: 'A note has at most 300 letters.' }) note!: string;
}
export class TitleDto {
  @IsUUID('all') id!: string;
  @IsIn(['opening', 'lower', 'end']) kind!: string;
  @IsInt() @Min(0) frame!: number;
  @IsInt() @Min(2) frames!: number;
  @trimmed() @IsString() @Length(1, 200, { message: 'A title has 1 to 200 letters.' }) text!: string;
  @IsOptional() @IsString() @Length(0, 200) sub?: string;
}

class CommandDto {
  @IsString() type!: string;
}
class OnClip extends CommandDto {
  @Matches(itemId, { message: 'Choose a piece.' }) clip!: string;
}
class OnClipOrAll extends CommandDto {
  @or() @Matches(itemId, { message: 'Choose a piece.' }) clip!: string | null;
}
class WithNewId extends OnClip {
  @Matches(itemId) newId!: string;
}
class Rename extends CommandDto {
  @trimmed() @IsString() @Length(1, 120, { message: 'Give a name of 1 to 120 letters.' }) name!: string;
}
class Format extends CommandDto {
  @IsOptional() @nested(() => SizeDto) size?: SizeDto;
  @IsOptional() @nested(() => RateDto) rate?: RateDto;
}
class Move extends OnClip {
  @IsInt() to!: number;
}
class Place extends OnClip {
  @IsInt() @Min(0) at!: number;
}
class Frames extends OnClip {
  @IsNumber() frames!: number;
}
class Trim extends OnClip {
  @IsIn(['in', 'out']) edge!: 'in' | 'out';
  @IsInt() frames!: number;
  @IsOptional() @IsBoolean() inPlace?: boolean;
}
class Fade extends OnClip {
  @IsIn(['in', 'out']) edge!: 'in' | 'out';
  @IsInt() @Min(0) frames!: number;
}
class Split extends WithNewId {
  @IsInt() at!: number;
}
class Hold extends Split {
  @IsInt() @Min(1) frames!: number;
}
class Speed extends OnClip {
  @IsInt() @Min(0) @Max(400) percent!: number;
  @IsOptional() @IsBoolean() keepLength?: boolean;
}
class Replace extends OnClip {
  @nested(() => SourceStartDto) with!: SourceStartDto;
  @IsOptional() @IsBoolean() keepSound?: boolean;
  @IsOptional() @IsBoolean() shorten?: boolean;
}
class Put extends CommandDto {
  @IsIn(['insert', 'overwrite', 'append', 'above', 'sound']) how!: string;
  @IsInt() at!: number;
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(2000)
  @ValidateNested({ each: true })
  @Type(() => ClipDto)
  clips!: ClipDto[];
  @IsOptional() @IsBoolean() shorten?: boolean;
}
class SetTrack extends CommandDto {
  @IsInt() @Min(0) track!: number;
  @IsOptional() @IsBoolean() locked?: boolean;
  @IsOptional() @IsBoolean() muted?: boolean;
  @IsOptional() @IsNumber() levelDb?: number;
  @IsOptional() @IsString() @Length(1, 60) name?: string;
}
class Sound extends OnClip {
  @IsOptional() @IsNumber() levelDb?: number;
  @IsOptional() @IsBoolean() muted?: boolean;
}
class ReplaceSound extends OnClip {
  @nested(() => SourceStartDto) sound!: SourceStartDto;
}
class SetMusic extends CommandDto {
  @or() @nested(() => MusicDto) music!: MusicDto | null;
}
class Loudness extends CommandDto {
  @or() @IsNumber() lufs!: number | null;
}
class SetTransition extends OnClip {
  @or() @nested(() => TransitionDto) into!: TransitionDto | null;
}
class SetTransitions extends CommandDto {
  @or() @nested(() => TransitionDto) into!: TransitionDto | null;
}
class SetLook extends OnClipOrAll {
  @or() @nested(() => LookDto) look!: LookDto | null;
}
class SetFit extends OnClipOrAll {
  @or() @IsIn(['fill', 'blur', 'bars']) fit!: string | null;
}
class SetStillMove extends OnClip {
  @or() @nested(() => StillMoveDto) move!: StillMoveDto | null;
}
class SetSteady extends OnClip {
  @or() @nested(() => SteadyDto) steady!: SteadyDto | null;
}
class KeyDto {
  @IsNumber() @Min(0) seconds!: number;
  @share() x!: number;
  @share() y!: number;
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
class FramingDto {
  @Matches(framingSubjects) subject!: string;
  @IsNumber() @Min(1) @Max(4) zoom!: number;
  @IsArray() @ArrayMaxSize(500) @ValidateNested({ each: true }) @Type(() => KeyDto) keys!: KeyDto[];
  @Validate(IsPath) path!: [number, number, number][];
  @IsOptional() @Validate(IsPath) below?: [number, number, number][];
  @IsOptional() @IsString() @Length(0, 80) follows?: string;
}
class ClipFramingDto {
  @Matches(itemId, { message: 'Choose a piece.' }) clip!: string;
  @or() @nested(() => FramingDto) framing!: FramingDto | null;
}
class SetFraming extends CommandDto {
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => ClipFramingDto)
  framings!: ClipFramingDto[];
}
const colour = () => Matches(/^#[0-9a-f]{6}([0-9a-f]{2})?$/i, { message: 'A colour is written like #ffc95c.' });
export class CaptionStyleDto {
  @IsIn(captionFontNames, { message: 'Choose a font that ships with the application.' }) font!: CaptionFont;
  @IsNumber() @Min(2) @Max(16) size!: number;
  @colour() colour!: string;
  @colour() lit!: string;
  @colour() emphasis!: string;
  @colour() outline!: string;
  @IsNumber() @Min(0) @Max(30) outlineWidth!: number;
  @or() @colour() box!: string | null;
  @IsNumber() @Min(0.05) @Max(0.95) place!: number;
  @IsBoolean() upper!: boolean;
  @IsIn(['none', 'fade', 'pop']) motion!: 'none' | 'fade' | 'pop';
  @IsInt() @Min(10) @Max(84) letters!: number;
}
class SetCaptions extends CommandDto {
  @or() @nested(() => CaptionStyleDto) style!: CaptionStyleDto | null;
}
export class LogoDto {
  @IsUUID('all', { message: 'Choose a picture.' }) media!: string;
  @IsIn(['top left', 'top right', 'bottom left', 'bottom right']) corner!:
    'top left' | 'top right' | 'bottom left' | 'bottom right';
  @IsNumber() @Min(0.03) @Max(0.6) size!: number;
  @IsNumber() @Min(0.05) @Max(1) opacity!: number;
}
class SetLogo extends CommandDto {
  @or() @nested(() => LogoDto) logo!: LogoDto | null;
}
class SetTitle extends CommandDto {
  @nested(() => TitleDto) title!: TitleDto;
}
class ById extends CommandDto {
  @IsUUID('all') id!: string;
}
class SetTheme extends CommandDto {
  @or() @IsString() @Length(1, 40) theme!: string | null;
}
class Mark extends CommandDto {
  @nested(() => MarkerDto) marker!: MarkerDto;
}
class Several extends CommandDto {
  @IsString() @Length(1, 200) name!: string;
  @IsArray() @ArrayNotEmpty() @ArrayMaxSize(2000) @IsObject({ each: true }) commands!: object[];
}

/** A class for every edit but `restore`, which goes by the number of a revision, and `slots`, which comes from a montage. */
export const commandDtos: Record<Exclude<ReelCommand['type'], 'restore' | 'slots'>, new () => CommandDto> = {
  rename: Rename,
  format: Format,
  remove: OnClip,
  lift: OnClip,
  handOver: OnClip,
  takeBack: OnClip,
  move: Move,
  place: Place,
  trim: Trim,
  roll: Frames,
  slip: Frames,
  split: Split,
  speed: Speed,
  hold: Hold,
  replace: Replace,
  put: Put,
  track: SetTrack,
  sound: Sound,
  detach: WithNewId,
  attach: OnClip,
  unlink: OnClip,
  replaceSound: ReplaceSound,
  fade: Fade,
  music: SetMusic,
  loudness: Loudness,
  transition: SetTransition,
  transitions: SetTransitions,
  look: SetLook,
  fit: SetFit,
  stillMove: SetStillMove,
  steady: SetSteady,
  framing: SetFraming,
  captions: SetCaptions,
  logo: SetLogo,
  title: SetTitle,
  removeTitle: ById,
  theme: SetTheme,
  mark: Mark,
  unmark: ById,
  several: Several,
};

@ValidatorConstraint({ name: 'onething' })
class OneThing implements ValidatorConstraintInterface {
  validate(_: unknown, about?: ValidationArguments): boolean {
    const { command, step, restore } = about!.object as ReelEditDto;
    return [command, step, restore].filter((value) => value !== undefined).length === 1;
  }
  defaultMessage(): string {
    return 'Nothing to do.';
  }
}

/** One edit, one step back or on, or a revision to be restored, on the version that the sender knows. */
export class ReelEditDto {
  /** By which one that comes twice is known. */
  @IsOptional() @IsUUID('all') id?: string;
  @Validate(OneThing) @IsInt() @Min(0) head!: number;
  @IsOptional() @IsObject() command?: { type: string; commands?: { type: string }[] };
  @IsOptional() @IsIn(['undo', 'redo']) step?: 'undo' | 'redo';
  @IsOptional() @IsInt() @Min(0) restore?: number;
}

export class RenderDto {
  @IsIn(outputFormats, { message: 'Choose a format.' }) format: OutputFormat = 'mp4';
  @IsIn(qualities, { message: 'Choose a quality.' }) quality: Quality = 'good';
  /** Lines of the shorter side; as the reel is when missing. */
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(90, { message: 'A picture has at least 90 lines.' })
  @Max(2160, { message: 'A picture has at most 2160 lines.' })
  lines?: number;
  /** In frames of the reel. */
  @IsOptional() @Type(() => Number) @IsInt() @Min(0) from?: number;
  @IsOptional() @Type(() => Number) @IsInt() @Min(0) to?: number;
  /** A file for every piece, named like this. */
  @IsOptional()
  @trimmed()
  @IsString()
  @Length(1, 120, { message: 'A pattern for names has 1 to 120 letters.' })
  pattern?: string;
}

export class ReelIntentDto {
  @IsIn(['delete', 'duplicate', 'nameVersion', 'forgetVersion']) intent!:
    'delete' | 'duplicate' | 'nameVersion' | 'forgetVersion';
  @ValidateIf((it: ReelIntentDto) => it.intent === 'nameVersion')
  @trimmed()
  @IsString()
  @Length(1, 80, { message: 'Give the version a name of 1 to 80 letters.' })
  name?: string;
  @ValidateIf((it: ReelIntentDto) => it.intent === 'forgetVersion') @IsUUID('all') version?: string;
}

export class MatchDto {
  @IsUUID('all', { message: 'Choose a piece.' }) reference!: string;
  @IsUUID('all', { message: 'Choose a recording.' }) other!: string;
}
