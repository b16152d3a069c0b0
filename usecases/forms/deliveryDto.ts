import 'reflect-metadata';
import { Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsDate,
  IsInt,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { trimmed } from '#core/checks';

/** A finished file to be handed to an outlet. */
export class PostDto {
  @IsUUID('all', { message: 'Choose a finished file.' }) render!: string;
  @IsString() @Length(1, 60) outlet!: string;
  @IsString() @Length(1, 60, { message: 'Choose an account.' }) account!: string;
  @trimmed() @IsString() @Length(1, 100, { message: 'A title has 1 to 100 letters.' }) title!: string;
  @IsOptional() @trimmed() @IsString() @Length(0, 2000, { message: 'A text has at most 2000 letters.' }) text?: string;
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

class GroupDto {
  @trimmed() @IsString() @Length(1, 60, { message: 'A group has a name of 1 to 60 letters.' }) name!: string;
  @IsArray()
  @ArrayNotEmpty({ message: 'Every group needs at least one piece.' })
  @ArrayMaxSize(100)
  @IsUUID('all', { each: true })
  pieces!: string[];
}
/** Which combinations of reels are made. */
export class VariantsDto {
  @IsArray()
  @ArrayNotEmpty({ message: 'Add two groups or more.' })
  @ArrayMaxSize(8)
  @ValidateNested({ each: true })
  @Type(() => GroupDto)
  groups!: GroupDto[];
  @IsInt() @Min(1, { message: 'Make at least one.' }) @Max(500, { message: 'At most 500 at once.' }) most!: number;
  @trimmed() @IsString() @Length(1, 120, { message: 'A pattern for names has 1 to 120 letters.' }) pattern!: string;
  @IsBoolean() render!: boolean;
}
