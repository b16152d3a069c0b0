import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  Equals,
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
  Max,
  Min,
  Validate,
  ValidateNested,
  ValidatorConstraint,
  type ValidationArguments,
  type ValidatorConstraintInterface,
} from 'class-validator';
import { everies, orders, type Every, type Montage } from '#core/montage';

/** A montage as its screen sends it. */
const ascending = { message: 'Beats and marks have to be in order.' };

@ValidatorConstraint({ name: 'ascending' })
class Ascending implements ValidatorConstraintInterface {
  validate(list: unknown): boolean {
    return (
      Array.isArray(list) &&
      list.every(
        (value, index) =>
          typeof value === 'number' &&
          Number.isFinite(value) &&
          value >= 0 &&
          (index === 0 || value > (list[index - 1] as number)),
      )
    );
  }
}
@ValidatorConstraint({ name: 'painted' })
class Painted implements ValidatorConstraintInterface {
  validate(value: unknown): boolean {
    return (
      typeof value === 'object' &&
      value !== null &&
      Object.entries(value).every(
        ([key, every]) => /^\d{1,3}$/.test(key) && (everies as readonly unknown[]).includes(every),
      )
    );
  }
}
/** Slots follow one another inside the music, and every piece in them is one of the list. */
@ValidatorConstraint({ name: 'slots' })
class Contiguous implements ValidatorConstraintInterface {
  validate(slots: unknown, about?: ValidationArguments): boolean {
    const { pieces } = about!.object as MontageDto;
    const known = new Set(Array.isArray(pieces) ? pieces.map((piece) => piece?.id) : []);
    return (
      Array.isArray(slots) &&
      slots.every(
        (slot: { start: number; end: number; piece?: { piece: string } }, index) =>
          slot !== null &&
          slot.end > slot.start &&
          (index === 0 || Math.abs(slot.start - (slots[index - 1] as { end: number }).end) < 0.001) &&
          (!slot.piece || known.has(slot.piece.piece)),
      )
    );
  }
}

class GridDto {
  @Validate(Ascending, ascending) @ArrayMaxSize(20_000) beats!: number[];
  @IsInt() @Min(2) @Max(12) bar!: number;
  @Validate(Ascending, ascending) @ArrayMaxSize(20_000) starts!: number[];
}
class SpanDto {
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
  @IsNumber() @Min(0) @Max(60) fadeSeconds!: number;
}
class PartDto {
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
}
class PatternDto {
  @IsIn(everies) every!: Every;
  @IsObject() @Validate(Painted, { message: 'This pattern is not known.' }) painted!: Record<number, Every>;
  @IsBoolean() followEnergy!: boolean;
  @IsNumber() @Min(0.1) @Max(30) shortest!: number;
  @IsNumber() @Min(0.2) @Max(600) longest!: number;
  @IsIn(['music', 'hit']) end!: string;
}
class FillingDto {
  @IsIn(orders) order!: string;
  @IsInt() @Min(0) @Max(0xffff_ffff) seed!: number;
  @IsBoolean() alternate!: boolean;
  @IsIn(['in', 'action']) start!: string;
  @IsIn(['other', 'slow', 'share']) tooShort!: string;
  @IsBoolean() steadyOnly!: boolean;
  @IsIn(['none', 'low']) cameraSound!: string;
}
class MontagePieceDto {
  @IsUUID('all') id!: string;
  @IsUUID('all') media!: string;
  @IsString() @Length(1, 200) name!: string;
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
  @IsOptional() @IsBoolean() photo?: boolean;
  @IsOptional() @IsBoolean() off?: boolean;
  @IsOptional() @IsNumber() @Min(0) action?: number;
}
class PlacedDto {
  @IsUUID('all') piece!: string;
  @IsNumber() @Min(0) sourceStart!: number;
  @IsOptional() @IsInt() @Min(25) @Max(400) speed?: number;
  @IsOptional() @IsBoolean() byHand?: boolean;
}
class SlotDto {
  @IsUUID('all') id!: string;
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
  @IsOptional() @IsBoolean() locked?: boolean;
  @IsOptional() @ValidateNested() @Type(() => PlacedDto) piece?: PlacedDto;
}
export class MontageDto {
  @Equals('BrightReel.Montage.1') schema!: Montage['schema'];
  @IsObject() @ValidateNested() @Type(() => GridDto) grid!: GridDto;
  @IsOptional() @IsArray() @ArrayMaxSize(500) @ValidateNested({ each: true }) @Type(() => PartDto) settled?: PartDto[];
  @Validate(Ascending, ascending) @ArrayMaxSize(5000) marks!: number[];
  @IsObject() @ValidateNested() @Type(() => SpanDto) span!: SpanDto;
  @IsObject() @ValidateNested() @Type(() => PatternDto) pattern!: PatternDto;
  @IsObject() @ValidateNested() @Type(() => FillingDto) filling!: FillingDto;
  @IsArray()
  @ArrayMaxSize(2000)
  @ValidateNested({ each: true })
  @Type(() => MontagePieceDto)
  pieces!: MontagePieceDto[];
  @IsArray()
  @ArrayMaxSize(5000)
  @ValidateNested({ each: true })
  @Type(() => SlotDto)
  @Validate(Contiguous, { message: 'The slots do not follow one another, or hold a piece that is not in the list.' })
  slots!: SlotDto[];
}

/** A reel made of a montage, or a montage put into a reel that is there: at its start or its end, pushed in or laid over. */
export class MakeReelDto {
  @IsOptional() @IsUUID('all', { message: 'Choose a reel.' }) into?: string;
  @IsOptional() @IsIn(['insert', 'overwrite'], { message: 'Insert or overwrite.' }) how?: 'insert' | 'overwrite';
  @IsOptional() @IsIn(['start', 'end']) at?: 'start' | 'end';
}

/** A montage on the version that the sender knows; 0 for none yet. */
export class SaveMontageDto {
  @IsInt() @Min(0) version!: number;
  @IsObject() @ValidateNested() @Type(() => MontageDto) document!: MontageDto;
}

class ListChangesDto {
  @IsOptional() @IsArray() @ArrayMaxSize(5000) @IsObject({ each: true }) put?: { id: string }[];
  @IsOptional() @IsArray() @ArrayMaxSize(5000) @IsString({ each: true }) order?: string[];
}
/** What changed in a montage since a version; the montage that comes of it is checked whole. */
export class MontageChangesDto {
  @IsOptional() @IsObject() grid?: object;
  @IsOptional() @IsArray() settled?: object[];
  @IsOptional() @IsArray() marks?: number[];
  @IsOptional() @IsObject() span?: object;
  @IsOptional() @IsObject() pattern?: object;
  @IsOptional() @IsObject() filling?: object;
  @IsOptional() @ValidateNested() @IsObject() @Type(() => ListChangesDto) pieces?: ListChangesDto;
  @IsOptional() @ValidateNested() @IsObject() @Type(() => ListChangesDto) slots?: ListChangesDto;
}

/** A stretch of a song, in seconds of it. */
class MusicPartDto {
  @IsUUID('all', { message: 'Choose a song.' }) media!: string;
  @IsOptional() @IsNumber() @Min(0) from?: number;
  @IsOptional() @IsNumber() @Min(0) to?: number;
}
export class MakeMusicDto {
  @IsArray()
  @ArrayNotEmpty({ message: 'Choose a song.' })
  @ArrayMaxSize(12, { message: 'At most twelve songs go into one piece of music.' })
  @ValidateNested({ each: true })
  @Type(() => MusicPartDto)
  parts!: MusicPartDto[];
  @IsOptional()
  @IsNumber()
  @Min(5, { message: 'Music is at least five seconds long.' })
  @Max(1800, { message: 'Music is at most half an hour long.' })
  seconds?: number;
}
