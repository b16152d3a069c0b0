import 'reflect-metadata';
import { Transform } from 'class-transformer';
import { IsDate, IsOptional, IsString, IsUUID, Length } from 'class-validator';
import { trimmed } from '#core/checks';

/** A finished file to be handed to an outlet. */
export class PostDto {
  @IsUUID('all', { message: 'Choose a finished file.' }) render!: string;
  @IsString() @Length(1, 60) outlet!: string;
  @IsString() @Length(1, 60, { message: 'Choose an account.' }) account!: string;
  @trimmed() @IsString() @Length(1, 100, { message: 'A title has 1 to 100 characters.' }) title!: string;
  @IsOptional()
  @trimmed()
  @IsString()
  @Length(0, 2000, { message: 'A text has at most 2000 characters.' })
  text?: string;
  @IsOptional()
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' && value ? new Date(value) : undefined))
  @IsDate({ message: 'Give the time as a date and a time of day.' })
  at?: Date;
}

export class LinkDto {
  @trimmed() @IsString() @Length(1, 2000, { message: 'Give an address.' }) address!: string;
  @IsOptional()
  @Transform(({ value }: { value: unknown }) => (value === '' ? undefined : value))
  @IsUUID('all')
  binId?: string;
}
