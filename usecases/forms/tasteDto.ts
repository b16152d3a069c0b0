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
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { trimmed } from '#core/checks';

const tasteIntents = ['add', 'rename', 'remove', 'restore', 'bring'] as const;
const nameSentence = 'Give the taste a name of 1 to 60 characters.';

/** A change of the tastes that there are. */
export class ChangeTasteDto {
  @IsIn(tasteIntents) intent!: (typeof tasteIntents)[number];
  @IsOptional() @IsUUID('all') id?: string;
  @IsOptional() @trimmed() @IsString() @Length(1, 60, { message: nameSentence }) name?: string;
  /** A taste as a file. */
  @IsOptional() @IsString() @Length(2, 2_000_000, { message: 'This file is too large to be a taste.' }) text?: string;
}

class MeansDto {
  @IsNumber() @Min(0) @Max(1) people!: number;
  @IsNumber() @Min(0) @Max(1) talk!: number;
  @IsNumber() @Min(0) @Max(1) action!: number;
  @IsNumber() @Min(0) @Max(1) camera!: number;
  @IsNumber() @Min(0) @Max(1) sound!: number;
  @IsNumber() @Min(0) @Max(1) picture!: number;
}

class ExampleDto {
  @IsBoolean() kept!: boolean;
  @ValidateNested() @Type(() => MeansDto) means!: MeansDto;
}

/** A taste that was taken along. */
export class TasteFileDto {
  @Equals('bright-reel-taste') format!: string;
  @Equals(1) version!: number;
  @trimmed() @IsString() @Length(1, 60, { message: nameSentence }) name!: string;
  @IsArray() @ArrayMaxSize(2000) @ValidateNested({ each: true }) @Type(() => ExampleDto) examples!: ExampleDto[];
}
