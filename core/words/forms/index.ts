import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsString,
  Length,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { optional, orNull, share } from '#core/checks';
import type { WordsCommand } from '../commands';

/** Words in a file of two hours, spoken fast. */
const mostWords = 100_000;

class RivalForm {
  @IsInt() @Min(1) @Max(50) words!: number;
  @IsString() @Length(0, 2000) text!: string;
}
class WordForm {
  @IsString() @Length(1, 200) text!: string;
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
  @share() confidence!: number;
  @optional() @IsBoolean() emphasis?: boolean;
  @optional() @IsBoolean() breakAfter?: boolean;
  @optional() @IsIn(['added', 'otherwise']) differs?: 'added' | 'otherwise';
  @optional() @IsString() @Length(1, 100_000) unsaid?: string;
  @optional() @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => RivalForm) rivals?: RivalForm[];
}
class CommandForm {
  @IsString() type!: string;
}
class Correct extends CommandForm {
  @IsInt() @Min(0) from!: number;
  @IsInt() @Min(0) to!: number;
  @IsString() @Length(0, 2000, { message: 'That is too long for one place.' }) text!: string;
}
class CorrectAll extends CommandForm {
  @IsArray() @ArrayNotEmpty() @ArrayMaxSize(2000) @IsInt({ each: true }) @Min(0, { each: true }) places!: number[];
  @IsInt() @Min(1) @Max(50) count!: number;
  @IsString() @Length(0, 2000, { message: 'That is too long for one place.' }) text!: string;
}
class Flag extends CommandForm {
  @IsInt() @Min(0) index!: number;
  @optional() @IsBoolean() emphasis?: boolean;
  @optional() @orNull() @IsBoolean() breakAfter?: boolean | null;
}
class Retime extends CommandForm {
  @IsInt() @Min(0) from!: number;
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(2000)
  @IsNumber({}, { each: true })
  @Min(0, { each: true })
  starts!: number[];
  @IsNumber() @Min(0) end!: number;
}
class TypeIn extends CommandForm {
  @IsString() @Length(0, 2000, { message: 'That is too long for one caption.' }) text!: string;
  @IsNumber() @Min(0) start!: number;
  @IsNumber() @Min(0) end!: number;
}
class PutWords extends CommandForm {
  @IsArray() @ArrayMaxSize(mostWords) @ValidateNested({ each: true }) @Type(() => WordForm) words!: WordForm[];
}

/** What an edit of words from outside has to be, by its type. */
export const wordsForms = {
  correct: Correct,
  correctAll: CorrectAll,
  flag: Flag,
  retime: Retime,
  type: TypeIn,
  put: PutWords,
} satisfies Record<WordsCommand['type'], new () => CommandForm>;
