import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  Equals,
  IsArray,
  IsBoolean,
  IsIn,
  IsNumber,
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
import { nested, trimmed } from '#core/checks';
import { RateForm, SizeForm } from '#core/reel/commands/forms';
import { qualities, type Quality } from '#core/reel';

const uuid = '[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}';

class PartDto {
  @IsUUID('all') id!: string;
  @IsIn(['reel', 'bin', 'footage']) kind!: 'reel' | 'bin' | 'footage';
  @ValidateIf((it: PartDto) => it.kind === 'reel') @IsUUID('all') reel?: string;
  @ValidateIf((it: PartDto) => it.kind === 'bin') @IsUUID('all') bin?: string;
  @ValidateIf((it: PartDto) => it.kind === 'footage') @IsUUID('all') media?: string;
  @ValidateIf((it: PartDto) => it.kind === 'footage')
  @IsString()
  @Length(1, 200, { message: 'A piece has a name of 1 to 200 characters.' })
  name?: string;
  @ValidateIf((it: PartDto) => it.kind === 'footage' && it.start !== null) @IsNumber() @Min(0) start?: number | null;
  @ValidateIf((it: PartDto) => it.kind === 'footage' && it.end !== null) @IsNumber() @Min(0) end?: number | null;
}

class GroupDto {
  @IsUUID('all') id!: string;
  @IsString() @Length(1, 60, { message: 'A group has a name of 1 to 60 characters.' }) name!: string;
  @IsArray()
  @ArrayMaxSize(200, { message: 'A group has at most 200 pieces.' })
  @ValidateNested({ each: true })
  @Type(() => PartDto)
  parts!: PartDto[];
}

class MusicDto {
  @IsIn(['each', 'first', 'none', 'one']) of!: 'each' | 'first' | 'none' | 'one';
  @ValidateIf((it: MusicDto) => it.of === 'one') @IsUUID('all', { message: 'Choose the music.' }) media?: string;
  @ValidateIf((it: MusicDto) => it.of === 'one') @IsString() @Length(1, 200) name?: string;
}

class TicksDto {
  @IsBoolean() all!: boolean;
  @IsArray()
  @ArrayMaxSize(4000)
  @Matches(new RegExp(`^${uuid}(?:/${uuid}){0,11}$`, 'i'), { each: true })
  but!: string[];
}

/** Groups of variants, and what is wanted of them. */
export class VariantSetDto {
  @Equals('BrightReel.Variants.1') schema!: string;
  @IsArray()
  @ArrayMaxSize(12, { message: 'At most twelve groups.' })
  @ValidateNested({ each: true })
  @Type(() => GroupDto)
  groups!: GroupDto[];
  @IsArray()
  @ArrayMaxSize(12, { message: 'At most twelve pieces follow one another.' })
  @IsUUID('all', { each: true })
  order!: string[];
  @trimmed() @IsString() @Length(1, 120, { message: 'A pattern for names has 1 to 120 characters.' }) pattern!: string;
  @nested(() => MusicDto) music!: MusicDto;
  @IsOptional() @nested(() => SizeForm) size!: SizeForm | null;
  @IsOptional() @nested(() => RateForm) rate!: RateForm | null;
  @nested(() => TicksDto) ticks!: TicksDto;
}

/** What is made of a set that was saved. */
export class MakeVariantsDto {
  /** Of the set that was seen. */
  @IsNumber() @Min(0) @Max(1e9) version!: number;
  @IsBoolean() render!: boolean;
  @IsIn(qualities) quality!: Quality;
}
