import {
  FEEDBACK_POLICIES,
  SLIP_POLICIES,
  readQuestion,
  type FeedbackPolicy,
  type SlipPolicy,
  type Question,
} from '@modest-sieve/core/assessment';
import { applyDecorators } from '@nestjs/common';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsISO8601,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateIf,
} from 'class-validator';
import type { ExerciseSettings, ReleaseRequest } from '../api/api.js';

/** Questions as they come: what each must be is for its kind to say, when `readQuestion` reads it. */
export const AreQuestions = () =>
  applyDecorators(
    IsArray(),
    ArrayMaxSize(50),
    IsObject({ each: true, message: 'Each question is an object.' }),
  );

/** What may change of an exercise that students have. */
export class TimesBody {
  @IsString() @MinLength(1, { message: 'Give the exercise a title.' }) @MaxLength(200) title: string;
  @IsString() @MaxLength(20_000) brief: string;
  @IsInt({ message: 'Attempts are a whole number.' }) @Min(1) @Max(1000) attempts: number;
  @ValidateIf(({ perDay }: TimesBody) => perDay !== null)
  @IsInt({ message: 'Attempts a day are a whole number.' })
  @Min(1)
  @Max(1000)
  perDay: number | null = null;
  @IsISO8601({ strict: true }, { message: 'The deadline is a date and time.' }) deadline: string;
  @IsInt() @Min(0) @Max(10_000) graceMinutes = 0;
  @IsNumber() @Min(0) @Max(100) latePercent = 0;
  @IsInt() @Min(0) @Max(365) lateDays = 0;
}

export class ExerciseBody extends TimesBody {
  @IsUUID(undefined, { message: 'Choose a split.' }) splitId: string;
  @IsOptional() @IsUUID(undefined, { message: 'Choose saved folds.' }) foldSetId: string | null = null;
  @IsOptional() @IsBoolean() reissued = false;
  @AreQuestions() questions: object[];
  @IsIn(['best', 'last']) counts: 'best' | 'last';
  @ValidateIf(({ opensAt }: ExerciseBody) => opensAt !== null)
  @IsISO8601({ strict: true }, { message: 'The time from which it is open is a date and time.' })
  opensAt: string | null = null;
  @IsIn(FEEDBACK_POLICIES) feedback: FeedbackPolicy;
  @IsOptional() @IsIn(SLIP_POLICIES) slips: SlipPolicy = 'after-return';
}

export class ReleaseBody implements ReleaseRequest {
  @IsOptional() @IsString() @MaxLength(2000) reason = '';
}

/** Settings with each question read by its kind. @throws SieveError with the field that is not what it must be */
export const settingsOf = ({ questions, ...settings }: ExerciseBody): ExerciseSettings => ({
  ...settings,
  questions: questionsOf(questions),
});

/** @throws SieveError with the field that is not what it must be */
export const questionsOf = (questions: readonly object[]): Question[] =>
  questions.map((one, i) => readQuestion(one, `questions.${i}`));
