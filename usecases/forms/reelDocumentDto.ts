import { fits, type Fit } from '#core/framing';
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
import { nested } from '#core/checks';
import {
  CaptionStyleForm,
  ClipForm,
  itemId,
  LogoForm,
  LookForm,
  MarkerForm,
  MusicForm,
  RateForm,
  SizeForm,
  TitleForm,
  TransitionForm,
} from '#core/reel/commands/forms';

/** A whole reel, as an archive holds it: the classes that guard its edits, put together. Items are checked one by one. */
export class ClipItemDto extends ClipForm {
  @Equals('clip') kind!: 'clip';
  @IsOptional() @nested(() => TransitionForm) into?: TransitionForm;
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
  @nested(() => RateForm) rate!: RateForm;
  @nested(() => SizeForm) size!: SizeForm;
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
  @IsOptional() @nested(() => MusicForm) music?: MusicForm;
  @IsOptional() @IsNumber() @Min(-70) @Max(0) loudnessLufs?: number;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20_000)
  @ValidateNested({ each: true })
  @Type(() => MarkerForm)
  markers?: MarkerForm[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(2000)
  @ValidateNested({ each: true })
  @Type(() => TitleForm)
  titles?: TitleForm[];
  @IsOptional() @IsString() @Length(1, 40) theme?: string;
  @IsOptional() @nested(() => LookForm) look?: LookForm;
  @IsOptional() @IsIn(fits) fit?: Fit;
  @IsOptional() @nested(() => CaptionStyleForm) captions?: CaptionStyleForm;
  @IsOptional() @nested(() => LogoForm) logo?: LogoForm;
}
