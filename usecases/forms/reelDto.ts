import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Max,
  Min,
  Validate,
  ValidateIf,
  ValidateNested,
  ValidatorConstraint,
  type ValidationArguments,
  type ValidatorConstraintInterface,
} from 'class-validator';
import { trimmed } from '#core/checks';
import { captionWays, outputFormats, qualities, type CaptionWay, type OutputFormat, type Quality } from '#core/reel';

@ValidatorConstraint({ name: 'onething' })
class OneThing implements ValidatorConstraintInterface {
  validate(_: unknown, about?: ValidationArguments): boolean {
    const { command, step } = about!.object as ReelEditDto;
    return (command === undefined) !== (step === undefined);
  }
  defaultMessage(): string {
    return 'Nothing to do.';
  }
}

/** More edits are not done again to find out what one of them meant. */
export const mostSince = 200;

/** One edit, or one step back or on, on the version that the sender knows. */
export class ReelEditDto {
  /** By which one that comes twice is known. */
  @IsOptional() @IsUUID('all') id?: string;
  @Validate(OneThing) @IsInt() @Min(0) head!: number;
  /** Edits of the same sender that were done on that version since, while somebody else changed the reel as well. */
  @IsOptional() @IsArray() @ArrayMaxSize(mostSince) @IsUUID('all', { each: true }) after: string[] = [];
  @IsOptional() @IsObject() command?: object;
  @IsOptional() @IsIn(['undo', 'redo']) step?: 'undo' | 'redo';
  /** The edit that is taken back or done again; the last one, or the next, when missing. */
  @IsOptional() @IsUUID('all') of?: string;
}

/** As what a file is made. */
class CodingDto {
  @IsIn(outputFormats, { message: 'Choose a format.' }) format!: OutputFormat;
  @IsIn(qualities, { message: 'Choose a quality.' }) quality: Quality = 'good';
  /** Lines of the shorter side; as the reel is when missing. */
  @IsOptional()
  @IsInt()
  @Min(90, { message: 'A picture has at least 90 lines.' })
  @Max(2160, { message: 'A picture has at most 2160 lines.' })
  lines?: number | null;
  @IsIn(captionWays, { message: 'Captions are burnt in, beside the file, or left away.' }) captions: CaptionWay =
    'burnt';
}

class RenderFileDto extends CodingDto {
  /** What it is for; for its name. */
  @IsOptional() @trimmed() @IsString() @Length(0, 60) purpose?: string;
  /** In frames of the reel; the whole when missing. */
  @IsOptional() @IsInt() @Min(0) from?: number | null;
  @IsOptional() @IsInt() @Min(0) to?: number | null;
}

export class RenderDto {
  @ArrayMinSize(1, { message: 'Choose what is to be made.' })
  @ArrayMaxSize(20, { message: 'Too many files at once: at most 20.' })
  @ValidateNested({ each: true })
  @Type(() => RenderFileDto)
  @IsArray({ message: 'Choose what is to be made.' })
  files!: RenderFileDto[];
  /** Every piece of the main track becomes a file. */
  @IsOptional() @IsBoolean() pieces?: boolean;
  @trimmed()
  @IsString()
  @Length(1, 120, { message: 'A pattern for names has 1 to 120 characters.' })
  pattern = '{reel}';
}

const presetName = 'Give the preset a name of 1 to 60 characters.';
/** A preset for files that is kept. */
class NewPresetDto extends CodingDto {
  @trimmed() @IsString({ message: presetName }) @Length(1, 60, { message: presetName }) name!: string;
}

/** A preset is kept, taken away, or brought back. */
export class ChangePresetDto {
  @IsIn(['keep', 'remove', 'restore']) intent!: 'keep' | 'remove' | 'restore';
  @ValidateIf((it: ChangePresetDto) => it.intent !== 'keep') @IsUUID('all') id?: string;
  @ValidateIf((it: ChangePresetDto) => it.intent === 'keep')
  @IsObject()
  @ValidateNested()
  @Type(() => NewPresetDto)
  preset?: NewPresetDto;
}

export class ReelIntentDto {
  @IsIn(['delete', 'duplicate', 'nameVersion', 'forgetVersion']) intent!:
    'delete' | 'duplicate' | 'nameVersion' | 'forgetVersion';
  @ValidateIf((it: ReelIntentDto) => it.intent === 'nameVersion')
  @trimmed()
  @IsString()
  @Length(1, 80, { message: 'Give the version a name of 1 to 80 characters.' })
  name?: string;
  @ValidateIf((it: ReelIntentDto) => it.intent === 'forgetVersion') @IsUUID('all') version?: string;
}

export class MatchDto {
  @IsUUID('all', { message: 'Choose a piece.' }) reference!: string;
  @IsUUID('all', { message: 'Choose a recording.' }) other!: string;
}
