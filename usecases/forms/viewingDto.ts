import 'reflect-metadata';
import { Transform, Type } from 'class-transformer';
import { IsBoolean, IsDate, IsIn, IsNumber, IsOptional, IsString, IsUUID, Length, Max, Min } from 'class-validator';
import { trimmed } from '#core/checks';

const flag = () => Transform(({ value }: { value: unknown }) => value === true || value === 'yes');
const emptyIsNone = () =>
  Transform(({ value }: { value: unknown }) => (value === '' || value === null ? undefined : value));

/** How a reel is shown: with a password, until when, and whether its file may be taken along. */
export class ViewingSettingsDto {
  /** Empty for none; left out to leave it as it is. */
  @IsOptional()
  @IsString()
  @Length(0, 200, { message: 'A password has at most 200 characters.' })
  password?: string;

  @IsOptional()
  @emptyIsNone()
  @Transform(({ value }: { value: unknown }) => (value === undefined ? undefined : new Date(value as string)))
  @IsDate({ message: 'Give the end as a day.' })
  endsAt?: Date;

  @flag() @IsBoolean() mayDownload: boolean = false;
}

/** What an editor does with a viewing, but for its settings. */
export const viewingIntents = [
  'open',
  'settings',
  'show',
  'again',
  'renew',
  'close',
  'answer',
  'tick',
  'untick',
  'remove',
  'restore',
] as const;

export class ViewingIntentDto {
  @IsIn(viewingIntents) intent!: (typeof viewingIntents)[number];

  /** The comment or the version that it is about. */
  @IsOptional() @IsUUID('all', { message: 'This comment is not there any more.' }) id?: string;

  @IsOptional()
  @trimmed()
  @IsString()
  @Length(0, 2000, { message: 'A comment has at most 2000 characters.' })
  text?: string;

  /** What its writer is called. */
  @IsOptional() @trimmed() @IsString() @Length(0, 60, { message: 'A name has at most 60 characters.' }) name?: string;
}

/** What somebody says who looks at it. */
export class CommentDto {
  /** By which one that comes twice is known. */
  @IsOptional() @IsUUID('all') id?: string;
  @IsUUID('all', { message: 'This version is not there any more.' }) version!: string;
  @Type(() => Number) @IsNumber({}, { message: 'Give the time in seconds.' }) @Min(0) @Max(86_400) seconds!: number;
  @trimmed() @IsString() @Length(1, 60, { message: 'Give your name, in up to 60 characters.' }) name!: string;
  @trimmed() @IsString() @Length(1, 2000, { message: 'Write a comment of up to 2000 characters.' }) text!: string;
  @IsOptional() @emptyIsNone() @IsUUID('all', { message: 'This comment is not there any more.' }) answers?: string;
}

/** Somebody approves a version, or takes that back. */
export class ApprovalDto {
  @IsUUID('all', { message: 'This version is not there any more.' }) version!: string;
  @trimmed() @IsString() @Length(1, 60, { message: 'Give your name, in up to 60 characters.' }) name!: string;
}
