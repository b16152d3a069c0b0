import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  Equals,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import {
  CaptionStyleDto,
  ClipDto,
  itemId,
  LogoDto,
  LookDto,
  MarkerDto,
  MusicDto,
  nested,
  RateDto,
  SizeDto,
  TitleDto,
  TransitionDto,
} from './reelDto';

/** A whole reel, as an archive holds it: the classes that guard its edits, put together. Items are checked one by one. */
export class ClipItemDto extends ClipDto {
  @Equals('clip') kind!: 'clip';
  @IsOptional() @nested(() => TransitionDto) into?: TransitionDto;
  @IsOptional() @IsString() @Length(1, 200) slot?: string;
}
export class GapItemDto {
  @Equals('gap') kind!: 'gap';
  @IsString() @Length(1, 200) id!: string;
  @IsInt() @Min(1) frames!: number;
}
class TrackDto {
  @IsIn(['picture', 'sound']) kind!: 'picture' | 'sound';
  @IsString() @Length(1, 60) name!: string;
  @IsArray() @ArrayMaxSize(20_000) items!: object[];
  @IsOptional() @IsBoolean() locked?: boolean;
  @IsOptional() @IsBoolean() muted?: boolean;
  @IsOptional() @IsNumber() levelDb?: number;
}
class MovedDto {
  @nested(() => ClipItemDto) clip!: ClipItemDto;
  @IsOptional() @Matches(itemId) before!: string | null;
}
export class ReelDocumentDto {
  @Equals('BrightReel.Reel.1') schema!: string;
  @IsString() @Length(1, 120) name!: string;
  @nested(() => RateDto) rate!: RateDto;
  @nested(() => SizeDto) size!: SizeDto;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => TrackDto)
  tracks!: TrackDto[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20_000)
  @ValidateNested({ each: true })
  @Type(() => MovedDto)
  moved?: MovedDto[];
  @IsOptional() @nested(() => MusicDto) music?: MusicDto;
  @IsOptional() @IsNumber() @Min(-70) @Max(0) loudnessLufs?: number;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20_000)
  @ValidateNested({ each: true })
  @Type(() => MarkerDto)
  markers?: MarkerDto[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(2000)
  @ValidateNested({ each: true })
  @Type(() => TitleDto)
  titles?: TitleDto[];
  @IsOptional() @IsString() @Length(1, 40) theme?: string;
  @IsOptional() @nested(() => LookDto) look?: LookDto;
  @IsOptional() @IsIn(['fill', 'blur', 'bars']) fit?: string;
  @IsOptional() @nested(() => CaptionStyleDto) captions?: CaptionStyleDto;
  @IsOptional() @nested(() => LogoDto) logo?: LogoDto;
}
