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
import { arrangements, type Arrangement } from '#core/moments';

import { share, trimmed } from '#core/checks';
import { parseClock } from '#core/time';
import { mostVoices } from '#core/voices';
import { languageTag } from '#core/words';
import { aims, type Aim } from '#data/schema';

/** What the screens send. Every action checks one of these before it does anything. */
const number = () => Type(() => Number);

export class NameDto {
  @trimmed()
  @IsString()
  @Length(1, 120, { message: 'Give a name of 1 to 120 characters.' })
  name!: string;
}

/** A new project: what it is called, and what somebody came to make. */
export class NewProjectDto extends NameDto {
  @IsOptional()
  @Transform(({ value }: { value: unknown }) => value || undefined)
  @IsIn(aims)
  aim?: Aim;

  /** Whether it is begun with files, and named by them. */
  @IsOptional()
  @Transform(({ value }: { value: unknown }) => value === true || value === 'yes')
  @IsBoolean()
  withFiles?: boolean;
}

/** What a project is begun for; or that it is made, made again once all is read, or kept as it is. */
export class BeginningDto {
  @IsIn(['aim', 'make', 'again', 'keep'])
  intent!: 'aim' | 'make' | 'again' | 'keep';

  @IsIn(aims, { message: 'Choose a highlight reel, shorts or a montage.' })
  aim!: Aim;
}

/** What is done with a project on the first screen. */
export class ProjectChangeDto {
  @IsUUID('all')
  id!: string;

  @IsIn(['rename', 'copy', 'put-away', 'take-out', 'delete', 'bring-back'])
  intent!: 'rename' | 'copy' | 'put-away' | 'take-out' | 'delete' | 'bring-back';

  @ValidateIf(({ intent }: ProjectChangeDto) => intent === 'rename')
  @trimmed()
  @IsString()
  @Length(1, 120, { message: 'Give a name of 1 to 120 characters.' })
  name?: string;
}

export class ItemsDto {
  @Transform(({ value }: { value: unknown }) => (Array.isArray(value) ? (value as unknown[]) : [value]))
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(20_000, { message: 'At most 20,000 items at once.' })
  @IsUUID('all', { each: true, message: 'Choose at least one item.' })
  ids!: string[];

  @IsOptional()
  @Transform(({ value }: { value: unknown }) => value || undefined)
  @IsUUID('all')
  binId?: string;
}

/** Another name for an item, without its ending. */
export class RenameDto extends ItemsDto {
  @trimmed()
  @IsString()
  @Length(1, 120, { message: 'Give a name of 1 to 120 characters.' })
  // Names become names of files when something is exported.
  @Matches(/^[^/\\\p{Cc}]*$/u, { message: 'A name has no slashes in it.' })
  name!: string;
}

/** Paths below the folder of this machine that is allowed. */
export class HereDto {
  @Transform(({ value }: { value: unknown }) => (Array.isArray(value) ? (value as unknown[]) : [value]))
  @IsArray()
  @ArrayNotEmpty({ message: 'Choose at least one file or folder.' })
  @ArrayMaxSize(5000)
  @IsString({ each: true })
  @Length(1, 2000, { each: true })
  paths!: string[];

  @IsOptional()
  @Transform(({ value }: { value: unknown }) => value || undefined)
  @IsUUID('all')
  binId?: string;
}

export class WatchDto {
  @IsString() @Length(0, 2000) path!: string;
  @IsIn(['yes', 'no']) on!: 'yes' | 'no';
}

/** The colour table that films go through first; without one they are as filmed. */
export class InputLookDto {
  @Transform(({ value }: { value: unknown }) => value || undefined)
  @IsOptional()
  @IsUUID('all', { message: 'This colour table is not in the project any more.' })
  table?: string;

  /** Items, beside those of the bin. */
  @Transform(({ value }: { value: unknown }) => (value === undefined || Array.isArray(value) ? value : [value]))
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20_000, { message: 'At most 20,000 items at once.' })
  @IsUUID('all', { each: true, message: 'Choose at least one item.' })
  ids?: string[];

  /** All of it, and what is brought into it from now on. */
  @Transform(({ value }: { value: unknown }) => value || undefined)
  @IsOptional()
  @IsUUID('all', { message: 'Choose a bin.' })
  bin?: string;
}

export class InStepDto {
  @IsUUID('all', { message: 'Choose a bin.' }) binId!: string;
  @IsIn(['yes', 'no']) synced!: 'yes' | 'no';
}

export class BinDto {
  @IsUUID('all', { message: 'Choose a bin.' }) bin!: string;
}

export class DecisionDto {
  @IsUUID('all') id!: string;
  @IsUUID('all') media!: string;
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
  @IsIn(['keep', 'drop']) verdict!: 'keep' | 'drop';
}

class MixDto {
  @IsNumber() @Min(0) @Max(100) people!: number;
  @IsNumber() @Min(0) @Max(100) talk!: number;
  @IsNumber() @Min(0) @Max(100) action!: number;
  @IsNumber() @Min(0) @Max(100) camera!: number;
  @IsNumber() @Min(0) @Max(100) sound!: number;
  @IsNumber() @Min(0) @Max(100) picture!: number;
}

class LimitsDto {
  @IsNumber() @Min(0) @Max(1) shake!: number;
  @IsNumber() @Min(0) @Max(1) blur!: number;
  @IsNumber() @Min(0) @Max(1) dark!: number;
  @IsOptional() @IsNumber() @Min(0) @Max(1) contrast?: number;
  @IsOptional() @IsNumber() @Min(0) @Max(1) white?: number;
  @IsOptional() @IsNumber() @Min(0) @Max(1) plain?: number;
  @IsBoolean() frozen!: boolean;
  @IsOptional() @IsBoolean() whips?: boolean;
  @IsOptional() @IsBoolean() clipped?: boolean;
  @IsOptional() @IsBoolean() wind?: boolean;
  @IsOptional() @IsNumber() @Min(0) @Max(600) silence?: number;
}

class PieceDto {
  @IsNumber() @Min(0.5) @Max(600) minSeconds!: number;
  @IsNumber() @Min(0.5) @Max(600) preferredSeconds!: number;
  @IsNumber() @Min(0.5) @Max(600) maxSeconds!: number;
}

class LearningDto {
  @IsBoolean() on!: boolean;
  @IsArray() @ArrayMaxSize(20000) @IsUUID('all', { each: true }) forgotten!: string[];
  @IsOptional() @IsUUID('all') taste?: string | null;
}

export class PickDto {
  @ValidateNested() @Type(() => MixDto) mix!: MixDto;
  @ValidateNested() @Type(() => LimitsDto) limits!: LimitsDto;
  @ValidateNested() @Type(() => PieceDto) piece!: PieceDto;
  @IsOptional() @IsNumber() @Min(0) @Max(100) variety?: number;
  @IsOptional() @IsNumber() @Min(1, { message: 'A reel lasts at least a second.' }) @Max(86400) targetSeconds!:
    number | null;
  @IsOptional() @IsIn(arrangements) arrangement?: Arrangement;
  @IsOptional() @IsNumber() @Min(0) @Max(100) water!: number | null;
  @ValidateNested() @Type(() => LearningDto) learning!: LearningDto;
  @IsNumber() @Min(0.5) @Max(60) photoSeconds!: number;
}

export class MarkerDto {
  @IsUUID('all') id!: string;
  @IsUUID('all') media!: string;
  @IsNumber() @Min(0) seconds!: number;
  @IsString() @Length(0, 500, { message: 'A note has at most 500 characters.' }) note!: string;
  @IsIn(['note', 'good', 'problem', 'idea']) kind!: 'note' | 'good' | 'problem' | 'idea';
}

export class RecipeDto {
  @IsUUID('all') id!: string;
  @trimmed() @IsString() @Length(1, 60, { message: 'Give the recipe a name of 1 to 60 characters.' }) name!: string;
  @ValidateNested() @Type(() => MixDto) mix!: MixDto;
  @ValidateNested() @Type(() => LimitsDto) limits!: LimitsDto;
  @ValidateNested() @Type(() => PieceDto) piece!: PieceDto;
  @IsOptional() @IsNumber() @Min(0) @Max(100) variety?: number;
}

export class DefaultsDto {
  @IsUUID('all') id!: string;
  @IsOptional() @IsNumber() @Min(0) in!: number | null;
  @IsOptional() @IsNumber() @Min(0) out!: number | null;
}

class PlaceDto {
  @IsUUID('all') media!: string;
  @IsNumber() @Min(0) at!: number;
}

export class SceneBoardDto {
  @IsArray() @ArrayMaxSize(20000) @ValidateNested({ each: true }) @Type(() => PlaceDto) cuts!: PlaceDto[];
  @IsArray() @ArrayMaxSize(20000) @ValidateNested({ each: true }) @Type(() => PlaceDto) joined!: PlaceDto[];
  @IsObject() tags!: Record<string, string>;
  @IsArray() @ArrayMaxSize(50000) @IsString({ each: true }) order!: string[];
}

class KeptSilenceDto {
  @IsUUID('all') media!: string;
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
}

export class SilenceChoiceDto {
  @IsOptional() @IsNumber() @Min(-90) @Max(0) thresholdDb!: number | null;
  @IsNumber() @Min(0.1) @Max(60) minSeconds!: number;
  @IsNumber() @Min(0) @Max(5) padSeconds!: number;
  @IsArray() @ArrayMaxSize(20000) @ValidateNested({ each: true }) @Type(() => KeptSilenceDto) kept!: KeptSilenceDto[];
}

class PartedReelsDto {
  @IsOptional() @IsUUID('all') steady!: string | null;
  @IsOptional() @IsUUID('all') shaky!: string | null;
}
export class SeparationDto {
  @IsNumber() @Min(0.05) @Max(1) shakyFrom!: number;
  @IsNumber() @Min(0) @Max(5) padSeconds!: number;
  @IsNumber() @Min(0) @Max(60) minSteadySeconds!: number;
  @IsIn(['steady', 'shaky']) whips!: 'steady' | 'shaky';
  @IsOptional() @IsBoolean() inPlace!: boolean | null;
  @IsNumber() @Min(0) @Max(100_000) times!: number;
  @IsOptional() @ValidateNested() @Type(() => PartedReelsDto) last!: PartedReelsDto | null;
}

class PieceOfReelDto {
  @IsUUID('all') media!: string;
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
  @IsString() @Length(1, 200) name!: string;
  @IsOptional() @IsString() @Length(1, 500) reason?: string;
}

class ShownStretchDto {
  @IsUUID('all') media!: string;
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
}
/** More moments are wanted for a reel: so many seconds, none of what it shows. */
export class MorePiecesDto {
  @IsNumber() @Min(0.5) @Max(86_400) seconds!: number;
  @IsArray()
  @ArrayMaxSize(20_000)
  @ValidateNested({ each: true })
  @Type(() => ShownStretchDto)
  used!: ShownStretchDto[];
  /** Only what can lie over speech: nobody speaks in it. */
  @IsOptional() @IsBoolean() quiet?: boolean;
}

class NewReelDto {
  @trimmed() @IsString() @Length(1, 120) name!: string;
  @IsArray()
  @ArrayMaxSize(5000)
  @ValidateNested({ each: true })
  @Type(() => PieceOfReelDto)
  pieces!: PieceOfReelDto[];
  /** Every piece stays where it was filmed, a track a camera. */
  @IsOptional() @IsBoolean() inPlace?: boolean;
  /** Photos move slowly, by the faces in them. */
  @IsOptional() @IsBoolean() movePhotos?: boolean;
  @IsOptional() @IsIn(['selects']) role?: 'selects';
  /** A reel whose pieces these take the place of, as one step of its history. */
  @IsOptional() @IsUUID('all') replaces?: string;
}

export class MakeReelsDto {
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(4)
  @ValidateNested({ each: true })
  @Type(() => NewReelDto)
  reels!: NewReelDto[];
  /** Whether to go to the reel that was made. */
  @IsOptional() @IsBoolean() open?: boolean;
}

export class ImportReelDto {
  @IsString() @Length(1, 20_000_000, { message: 'The file is empty, or too large for a reel.' }) text!: string;
  @IsString() @Length(1, 300) name!: string;
  /** Only an EDL needs it; it does not say its rate. */
  @IsIn(['23.976', '24', '25', '29.97', '30', '50', '59.94', '60']) rate!:
    '23.976' | '24' | '25' | '29.97' | '30' | '50' | '59.94' | '60';
  @IsOptional() @IsObject() chosen?: Record<string, string>;
  @IsOptional() @IsBoolean() anyway?: boolean;
}

/** Ids of what is in a reel: a UUID, with a count behind it where a cut made two of one. */
const personId = /^(auto:)?[0-9a-f][0-9a-f-]{35}(\/[\d.]+)?$/;

export class PersonDto {
  @IsIn(['name', 'hide', 'show', 'portrait', 'join', 'split']) intent!:
    'name' | 'hide' | 'show' | 'portrait' | 'join' | 'split';
  @Matches(personId, { message: 'Choose a person.' }) person!: string;
  @IsOptional() @Matches(personId, { message: 'Choose a person.' }) into?: string;
  @IsOptional() @trimmed() @IsString() @Length(0, 80, { message: 'A name has at most 80 characters.' }) name?: string;
  @IsOptional()
  @Transform(({ value }: { value: unknown }) => [value].flat())
  @IsArray()
  @IsString({ each: true })
  tracks?: string[];
  @IsOptional() @IsUUID('all') media?: string;
  @IsOptional() @number() @IsNumber() @Min(0) time?: number;
}

export class EditWordsDto {
  @IsInt() @Min(0) version!: number;
  @IsObject() command!: object;
}

const maybe = () =>
  Transform(({ value }: { value: unknown }) =>
    value === 'true' ? true : value === 'false' ? false : value === 'null' ? null : value,
  );
export class TermsDto {
  @IsString() @Length(0, 100_000, { message: 'That is too much for a list of names.' }) terms!: string;
  /** Doubtful words that are there already are heard again. */
  @IsOptional() @maybe() @IsBoolean() again?: boolean;
}
export class SpeakersDto {
  @IsIn(['tell', 'name', 'join', 'change'], { message: 'Nothing to do.' }) intent!: 'tell' | 'name' | 'join' | 'change';
  @IsOptional() @number() @IsInt() @Min(0) version?: number;
  /** So many there are; found where it is missing. */
  @IsOptional() @number() @IsInt() @Min(1) @Max(mostVoices) count?: number;
  @IsOptional() @number() @IsInt() @Min(0) @Max(10_000) voice?: number;
  @IsOptional() @number() @IsInt() @Min(0) @Max(10_000) into?: number;
  @IsOptional()
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.trim() : value))
  @IsString()
  @Length(0, 80, { message: 'A name has up to 80 characters.' })
  name?: string;
  @IsOptional() @number() @IsNumber() @Min(0) start?: number;
  @IsOptional() @number() @IsNumber() @Min(0) end?: number;
}
export class ImportWordsDto {
  @IsString() @Length(1, 5_000_000, { message: 'The file is empty, or too large for a text.' }) text!: string;
  /** Of the file it came from; may say its language. */
  @IsOptional() @IsString() @Length(0, 300) name?: string;
  @IsOptional()
  @Transform(({ value }: { value: unknown }) => value || undefined)
  @Matches(languageTag, { message: 'Choose a language.' })
  language?: string;
  /** Said after the question what becomes of the text that is shown. */
  @IsOptional() @maybe() @IsBoolean() anyway?: boolean;
}
export class CaptionTextsDto {
  /** A second language, and the items whose words in it are wanted. */
  @IsOptional() @Matches(languageTag, { message: 'Choose a language.' }) second?: string;
  @IsOptional()
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.split(',').filter(Boolean) : value))
  @IsArray()
  @ArrayMaxSize(1000)
  @IsUUID('all', { each: true, message: 'This file is not there.' })
  of?: string[];
}
export class OtherTextDto {
  /** The id of a text that was replaced, or “heard:” and the name of a recogniser. */
  @Matches(/^(heard:.{1,160}|[\da-f]{8}(-[\da-f]{4}){3}-[\da-f]{12})$/, { message: 'Choose a text.' }) other!: string;
  @number() @IsInt() @Min(0) version!: number;
}

/** Empty for the start or the end of the file. */
const clock = () =>
  Transform(({ value }: { value: unknown }) =>
    typeof value === 'string' && value.trim() ? (parseClock(value) ?? NaN) : null,
  );

export class ReadingRangeDto {
  @IsOptional()
  @clock()
  @IsNumber({}, { message: 'Give times as minutes and seconds, such as 2:00.' })
  from!: number | null;
  @IsOptional()
  @clock()
  @IsNumber({}, { message: 'Give times as minutes and seconds, such as 58:30.' })
  to!: number | null;
}

export class SoundChoiceDto {
  /** As `writeSoundChoice` writes it; empty for what the machine finds best. */
  @Matches(/^(-|\d{1,2}(\.\d{1,2})?(\+\d{1,2}(\.\d{1,2})?){0,63})?$/, {
    message: 'Choose tracks or channels of this file.',
  })
  sound!: string;
}

/** Which track or channel is to be listened to, and from where. */
export class ExcerptDto {
  @Matches(/^\d{1,2}(\.\d{1,2})?$/, { message: 'Choose a track or channel of this file.' })
  sound!: string;

  @number() @IsNumber() @Min(0) @Max(43_200) from!: number;
}

const seconds = () => (target: object, key: string) => {
  IsNumber()(target, key);
  Min(0)(target, key);
  Max(60)(target, key);
};

class CameraRuleDto {
  @share() shakyFrom!: number;
  @seconds() padSeconds!: number;
  @share() movesFrom!: number;
  @IsNumber() @Min(0.1) @Max(20) whipFrom!: number;
  @seconds() whipMaxSeconds!: number;
}
class SpeechRuleDto {
  @share() enter!: number;
  @share() stay!: number;
  @seconds() minSpeechSeconds!: number;
  @seconds() minPauseSeconds!: number;
  @seconds() padSeconds!: number;
}
class SilenceRuleDto {
  @ValidateIf((rule: SilenceRuleDto) => rule.thresholdDb !== 'suggested') @IsNumber() @Min(-90) @Max(0) thresholdDb!:
    number | 'suggested';
  @seconds() minSeconds!: number;
  @seconds() padSeconds!: number;
}

/** Sensitivities of the readings, as the reading report sets them. */
export class RulesDto {
  @share() sceneSensitivity!: number;
  @ValidateNested() @Type(() => CameraRuleDto) camera!: CameraRuleDto;
  @ValidateNested() @Type(() => SpeechRuleDto) speech!: SpeechRuleDto;
  @ValidateNested() @Type(() => SilenceRuleDto) silence!: SilenceRuleDto;
  @share() blurredBelow!: number;
  @share() blackBelow!: number;
}
