import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
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
  ValidatorConstraint,
  type ValidationArguments,
  type ValidatorConstraintInterface,
} from 'class-validator';
import { trimmed } from '#core/checks';
import { outputFormats, qualities, type OutputFormat, type Quality } from '#core/reel';

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

/** One edit, or one step back or on, on the version that the sender knows. */
export class ReelEditDto {
  /** By which one that comes twice is known. */
  @IsOptional() @IsUUID('all') id?: string;
  @Validate(OneThing) @IsInt() @Min(0) head!: number;
  @IsOptional() @IsObject() command?: object;
  @IsOptional() @IsIn(['undo', 'redo']) step?: 'undo' | 'redo';
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
