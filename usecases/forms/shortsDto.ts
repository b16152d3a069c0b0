import { framingSubjects, type FramingSubject } from '#core/framing';
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
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { trimmed } from '#core/checks';
import { materials, type Material } from '#core/shorts';
import { qualities, shapes, type Quality, type Shape } from '#core/reel';
import { CaptionStyleForm, LogoForm } from '#core/reel/commands/forms';

const on = () => Transform(({ value }: { value: unknown }) => value === true || value === 'true' || value === 'on');
const seconds = (message: string) => (target: object, key: string) => {
  Type(() => Number)(target, key);
  IsNumber({}, { message })(target, key);
};
const shapeNames = Object.keys(shapes) as Shape[];
/** "", or nothing, is none. */
const orNothing = () =>
  Transform(({ value }: { value: unknown }) =>
    value === '' || value === 'null' || value === undefined ? null : value,
  );

const maybeSeconds = () =>
  Transform(({ value }: { value: unknown }) =>
    value === '' || value === null || value === undefined ? null : Number(value),
  );

/** What shorts are wished for. */
export class ShortsWishDto {
  @IsUUID('all', { message: 'Choose a recording.' }) media!: string;
  @Type(() => Number)
  @IsInt({ message: 'Give a number of shorts, 1 to 20.' })
  @Min(1, { message: 'Give a number of shorts, 1 to 20.' })
  @Max(20, { message: 'Give a number of shorts, 1 to 20.' })
  count!: number;
  @seconds('Give a length in seconds.')
  @Min(3, { message: 'A short is at least 3 seconds long.' })
  @Max(600, { message: 'A short is at most ten minutes long.' })
  minSeconds!: number;
  @seconds('Give a length in seconds.')
  @Min(3, { message: 'A short is at least 3 seconds long.' })
  @Max(600, { message: 'A short is at most ten minutes long.' })
  maxSeconds!: number;
  @orNothing() @ValidateIf((_, value) => value !== null) @IsIn(materials) material!: Material | null;
  @IsIn(['stretch', 'pieces']) form!: 'stretch' | 'pieces';
  @on() @IsBoolean() cutPauses: boolean = false;
  @on() @IsBoolean() cutRepeats: boolean = false;
  @maybeSeconds()
  @ValidateIf((_, value) => value !== null)
  @IsNumber({}, { message: 'Give times as minutes and seconds, such as 2:00.' })
  @Min(0, { message: 'Give times as minutes and seconds, such as 2:00.' })
  from!: number | null;
  @maybeSeconds()
  @ValidateIf((_, value) => value !== null)
  @IsNumber({}, { message: 'Give times as minutes and seconds, such as 58:30.' })
  @Min(0, { message: 'Give times as minutes and seconds, such as 58:30.' })
  to!: number | null;
  @trimmed() @IsString() @Length(0, 300, { message: 'A request has at most 300 characters.' }) request: string = '';
  @IsIn(shapeNames) shape!: Shape;
  @orNothing() @ValidateIf((_, value) => value !== null) @IsUUID('all') houseStyle!: string | null;
}

/** A change of a set of shorts. */
export class ShortsChangeDto {
  @IsIn(['thumb', 'order', 'render', 'delete', 'again']) intent!: 'thumb' | 'order' | 'render' | 'delete' | 'again';
  @ValidateIf((it: ShortsChangeDto) => it.intent === 'thumb') @IsString() @Length(1, 200) id?: string;
  @orNothing()
  @ValidateIf((it: ShortsChangeDto) => it.intent === 'thumb' && it.thumb !== null)
  @IsIn(['up', 'down'])
  thumb?: 'up' | 'down' | null;
  @ValidateIf((it: ShortsChangeDto) => it.intent === 'order')
  @IsArray()
  @ArrayMaxSize(200)
  @IsString({ each: true })
  order?: string[];
  /** Reels to be rendered. */
  @ValidateIf((it: ShortsChangeDto) => it.intent === 'render')
  @IsArray()
  @ArrayNotEmpty({ message: 'Choose at least one short to render.' })
  @ArrayMaxSize(50)
  @IsUUID('all', { each: true })
  reels?: string[];
  @IsOptional() @IsIn(shapeNames) shape?: Shape;
  @IsOptional() @Type(() => Number) @IsInt() @IsIn([720, 1080, 2160]) lines?: number;
  @IsOptional() @IsIn(qualities) quality?: Quality;
  @IsOptional()
  @trimmed()
  @IsString()
  @Length(1, 120, { message: 'A pattern for names has 1 to 120 characters.' })
  pattern?: string;
}

class KeyDto {
  @IsNumber() @Min(0) seconds!: number;
  @IsNumber() @Min(0) @Max(1) x!: number;
  @IsNumber() @Min(0) @Max(1) y!: number;
}
/** A stretch of footage, and how it is to be framed. */
class StretchForm {
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
  @Matches(framingSubjects) subject!: FramingSubject;
  @IsNumber() @Min(1) @Max(4) zoom!: number;
  @IsArray() @ArrayMaxSize(500) @ValidateNested({ each: true }) @Type(() => KeyDto) keys!: KeyDto[];
}
/** One, for a frame. */
export class FramingDto extends StretchForm {
  @IsInt() @Min(16) @Max(4096) width!: number;
  @IsInt() @Min(16) @Max(4096) height!: number;
}
class StretchDto extends StretchForm {
  @IsUUID('all') media!: string;
}
/** Several, for one frame. */
export class FramingsDto {
  @IsInt() @Min(16) @Max(4096) width!: number;
  @IsInt() @Min(16) @Max(4096) height!: number;
  @IsArray() @ArrayMaxSize(20_000) @ValidateNested({ each: true }) @Type(() => StretchDto) stretches!: StretchDto[];
}

class CardDto {
  @trimmed() @IsString() @Length(1, 120, { message: 'A title has 1 to 120 characters.' }) text!: string;
  @IsOptional() @IsString() @Length(0, 120) sub?: string;
  @IsNumber() @Min(0.5) @Max(20) seconds!: number;
}
const card = () => (target: object, key: string) => {
  ValidateIf((_, value) => value !== null)(target, key);
  IsObject()(target, key);
  ValidateNested()(target, key);
  Type(() => CardDto)(target, key);
};
export class HouseStyleDto {
  @IsObject() @ValidateNested() @Type(() => CaptionStyleForm) captions!: CaptionStyleForm;
  @ValidateIf((_, value) => value !== null) @IsString() @Length(1, 40) theme!: string | null;
  @ValidateIf((_, value) => value !== null) @IsObject() @ValidateNested() @Type(() => LogoForm) logo!: LogoForm | null;
  @card() opening!: CardDto | null;
  @card() lower!: CardDto | null;
  @card() end!: CardDto | null;
}
export class SaveHouseStyleDto {
  @IsIn(['save', 'delete']) intent!: 'save' | 'delete';
  @IsOptional() @IsUUID('all') id?: string;
  @ValidateIf((it: SaveHouseStyleDto) => it.intent === 'save')
  @trimmed()
  @IsString()
  @Length(1, 60, { message: 'Give the house style a name of 1 to 60 characters.' })
  name?: string;
  @IsOptional() @IsBoolean() shared?: boolean;
  @ValidateIf((it: SaveHouseStyleDto) => it.intent === 'save')
  @IsObject()
  @ValidateNested()
  @Type(() => HouseStyleDto)
  document?: HouseStyleDto;
}
