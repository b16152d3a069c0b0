import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
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
  ValidateBy,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { nested } from '#core/checks';
import { colourMatrices } from '#core/picture';
import { materials, shortParts } from '#core/shorts';
import { shapes } from '#core/reel';
import { languageTag } from '#core/words';
import { areParameters } from '#data/readings';

/** Rows of a project archive for which no screen has a class of its own. */
const or = () => ValidateIf((_, value) => value !== null && value !== undefined);

const isParameters = () =>
  ValidateBy({
    name: 'parameters',
    validator: {
      validate: (value: unknown) => typeof value === 'string' && areParameters(value),
      defaultMessage: (tried) => `${tried?.property ?? 'parameters'} names no way of reading`,
    },
  });

export class BinRowDto {
  @IsString() @Length(1, 120) name!: string;
  @or() @Matches(/^[0-9a-f]{32}$/) input_look?: string | null;
}
export class MediaRowDto {
  @IsString() @Length(1, 300) name!: string;
  @Matches(/^[0-9a-f]{64}$/) file_hash!: string;
  /** As `readingParameters` writes it; names a folder of the store. */
  @isParameters() parameters!: string;
  @or() @isParameters() next_parameters?: string | null;
  @or() @IsString() @Length(0, 1000) problem?: string | null;
}
class PortraitDto {
  @IsUUID('all') media!: string;
  @IsNumber() @Min(0) time!: number;
}
export class PersonRowDto {
  @IsString() @Length(0, 80) name!: string;
  @IsBoolean() hidden!: boolean;
  @or() @nested(() => PortraitDto) portrait!: PortraitDto | null;
  @IsArray() @ArrayMaxSize(100_000) @Matches(/^[0-9a-f-]{36}\/[\d.]{1,20}$/, { each: true }) tracks!: string[];
}
export class ScriptRowDto {
  @IsString() @Length(0, 300) name!: string;
  @IsString() @Length(1, 5_000_000) text!: string;
  @Matches(languageTag) language!: string;
}
class VoiceTurnDto {
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
  @IsInt() @Min(0) @Max(10_000) voice!: number;
  @IsOptional() @IsInt() @Min(0) @Max(10_000) also?: number;
}
export class SpeakersRowDto {
  @IsArray() @ArrayMaxSize(100_000) @ValidateNested({ each: true }) @Type(() => VoiceTurnDto) turns!: VoiceTurnDto[];
  @IsObject() names!: Record<string, string>;
}
export class PersonNumberRowDto {
  @Matches(/^[0-9a-f-]{36}\/[\d.]{1,20}$/) track!: string;
  @IsInt() @Min(1) @Max(1_000_000) number!: number;
}
export class ColourTableRowDto {
  @IsString() @Length(1, 200) name!: string;
  @IsInt() @Min(2) @Max(129) size!: number;
  @IsArray() @ArrayMinSize(3) @ArrayMaxSize(3) @IsNumber({}, { each: true }) from!: number[];
  @IsArray() @ArrayMinSize(3) @ArrayMaxSize(3) @IsNumber({}, { each: true }) to!: number[];
}

class RangeDto {
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
}
class EndingDto {
  @IsNumber() @Min(0) end!: number;
  @IsString() @Length(0, 2000) says!: string;
  @IsIn(['sentence', 'action']) kind!: string;
}
const partsOfScore = shortParts.map(String);
class ShortDto {
  @IsString() @Length(1, 200) id!: string;
  @IsUUID('all') media!: string;
  @IsArray() @ArrayMaxSize(500) @ValidateNested({ each: true }) @Type(() => RangeDto) pieces!: RangeDto[];
  @IsString() @Length(0, 500) title!: string;
  @IsString() @Length(0, 2000) reason!: string;
  @IsNumber() score!: number;
  @IsObject() parts!: Record<string, number>;
  @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => EndingDto) endings!: EndingDto[];
  @or() @IsUUID('all') reelId!: string | null;
}
class WishDto {
  @IsInt() @Min(1) @Max(20) count!: number;
  @IsNumber() @Min(0) @Max(3600) minSeconds!: number;
  @IsNumber() @Min(0) @Max(3600) maxSeconds!: number;
  @or() @IsIn(materials) material!: string | null;
  @IsIn(['stretch', 'pieces']) form!: string;
  @IsBoolean() cutPauses!: boolean;
  @IsBoolean() cutRepeats!: boolean;
  @or() @nested(() => RangeDto) range?: RangeDto;
  @IsString() @Length(0, 300) request!: string;
  @IsIn(Object.keys(shapes)) shape!: string;
  @or() @IsUUID('all') houseStyle!: string | null;
}
export class ShortsDocumentDto {
  @nested(() => WishDto) wish!: WishDto;
  @IsIn(materials) material!: string;
  @IsString() @Length(0, 2000) because!: string;
  @IsArray() @ArrayMaxSize(500) @ValidateNested({ each: true }) @Type(() => ShortDto) shorts!: ShortDto[];
  @IsObject() thumbs!: Record<string, string>;
  @or() @IsArray() @ArrayMaxSize(500) @IsString({ each: true }) order!: string[] | null;
}
export const isScore = (parts: Record<string, unknown>): boolean =>
  Object.entries(parts).every(([name, value]) => partsOfScore.includes(name) && Number.isFinite(value));

export class StoredProbeDto {
  @IsIn(['video', 'sound', 'photo']) kind!: string;
  @IsNumber() @Min(0) @Max(43_200) durationSeconds!: number;
  @or() @nested(() => FileRateDto) rate!: FileRateDto | null;
  @IsInt() @Min(0) @Max(20_000) width!: number;
  @IsInt() @Min(0) @Max(20_000) height!: number;
  @IsOptional() @IsInt() @Min(1) @Max(8) orientation?: number;
  @or() @nested(() => CodingDto) coding?: CodingDto | null;
  @IsOptional() @IsBoolean() copied?: boolean;
  @IsBoolean() hasSound!: boolean;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(64)
  @ValidateNested({ each: true })
  @Type(() => SoundTrackDto)
  soundTracks?: SoundTrackDto[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(64)
  @ValidateNested({ each: true })
  @Type(() => SoundPickDto)
  heard?: SoundPickDto[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(256)
  @ValidateNested({ each: true })
  @Type(() => HeardChannelDto)
  listened?: HeardChannelDto[];
  @or() @Matches(/^\d\d:\d\d:\d\d[:;]\d\d$/) startTimecode?: string | null;
  @or() @IsNumber() @Min(0) @Max(360_000) startSeconds?: number | null;
  @or() @IsString() @Length(0, 64) reelName?: string | null;
  @or() @IsString() @Length(0, 40) recordedAt?: string | null;
  @or() @IsString() @Length(0, 60) videoCodec!: string | null;
  @or() @IsString() @Length(0, 60) audioCodec!: string | null;
  @IsString() @Length(0, 200) format!: string;
}
/** Goes into graphs of filters: numbers and known words only. */
class CodingDto {
  @IsInt() @Min(-1) @Max(1000) stream!: number;
  @IsBoolean() still!: boolean;
  @IsInt() @Min(0) @Max(20_000) width!: number;
  @IsInt() @Min(0) @Max(20_000) height!: number;
  @IsInt() @Min(1) @Max(8) orientation!: number;
  @nested(() => AspectDto) pixelAspect!: AspectDto;
  @or() @IsIn(['top', 'bottom']) fields!: string | null;
  @or() @IsIn(['pq', 'hlg']) hdr!: string | null;
  @IsIn([400, 600, 1000, 2000, 4000]) peakNits!: number;
  @IsBoolean() wideGamut!: boolean;
  @IsIn(colourMatrices) matrix!: string;
  @IsBoolean() fullRange!: boolean;
  @IsBoolean() alpha!: boolean;
}
class AspectDto {
  @IsInt() @Min(1) @Max(100_000) num!: number;
  @IsInt() @Min(1) @Max(100_000) den!: number;
}
class SoundTrackDto {
  @IsInt() @Min(1) @Max(256) channels!: number;
  @or() @IsString() @Length(0, 60) layout!: string | null;
  @IsString() @Length(0, 60) codec!: string;
  @IsInt() @Min(0) @Max(1e6) sampleRate!: number;
  @or() @IsString() @Length(0, 16) language!: string | null;
  @or() @IsString() @Length(0, 64) title!: string | null;
}
export class SoundPickDto {
  @IsInt() @Min(0) @Max(99) track!: number;
  @or() @IsInt() @Min(0) @Max(99) channel!: number | null;
}
class HeardChannelDto {
  @IsInt() @Min(0) @Max(99) track!: number;
  @IsInt() @Min(0) @Max(99) channel!: number;
  @or() @IsNumber() @Min(0) @Max(1) speech!: number | null;
  @IsNumber() @Min(-200) @Max(200) clarity!: number;
  @IsNumber() @Min(-200) @Max(20) level!: number;
}
class FileRateDto {
  @IsInt() @Min(1) @Max(1e9) num!: number;
  @IsInt() @Min(1) @Max(1e9) den!: number;
}
export class SheetsDto {
  @IsOptional() @IsNumber() @Min(0) start?: number;
  @IsNumber() @Min(0.01) @Max(60) hz!: number;
  @IsInt() @Min(1) @Max(2000) width!: number;
  @IsInt() @Min(1) @Max(2000) height!: number;
  @IsInt() @Min(1) @Max(100) columns!: number;
  @IsInt() @Min(1) @Max(100) rows!: number;
  @IsInt() @Min(0) @Max(100_000) count!: number;
}
