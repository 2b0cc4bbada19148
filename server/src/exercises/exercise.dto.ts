import {
  FEEDBACK_POLICIES,
  QUESTION_KINDS,
  type FeedbackPolicy,
  type MarkScheme,
  type Planned,
  type Question,
} from '@modest-sieve/core';
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
import { AreBodies, IsBody } from '../platform/bodies/nested.js';
import type {
  Amendment,
  Correction,
  CorrectionApplied,
  ExerciseSettings,
  OwnDeadline,
  ReleaseRequest,
} from '../api/api.js';

export class SchemeBody implements MarkScheme {
  @IsNumber() nothing: number;
  @IsNumber() most: number;
  @IsNumber() all: number;
  @IsNumber() mostMarks: number;
  @IsNumber() marks: number;
  @IsOptional() @IsBoolean() doubt = false;
}

export class PlanBody {
  @IsString() @MaxLength(40) kind: string;
  @IsObject() values: Planned['values'];
}

export class StatementBody {
  @IsOptional() @IsString() @MaxLength(2000) text?: string;
  @IsOptional() @IsIn([true, false]) truth?: boolean;
  @IsOptional() @IsString() @MaxLength(40) reading?: string;
}

/** A question of any kind; what its kind takes of it is read by `questionOf`. */
export class QuestionBody {
  @IsString() @MaxLength(20) id: string;
  @IsIn(QUESTION_KINDS.map(({ key }) => key)) kind: Question['kind'];
  @IsString() @MaxLength(200) title: string;
  @IsString() @MaxLength(20_000) text: string;
  @IsOptional() @IsNumber() marks?: number;
  @IsOptional() @IsString() @MaxLength(60) metric?: string;
  @IsOptional() @IsBody(() => SchemeBody) scheme?: SchemeBody;
  @IsOptional() @IsObject() values?: Planned['values'];
  @IsOptional() @IsString() @MaxLength(60) run?: string | null;
  @IsOptional() @IsBody(() => PlanBody) figures?: PlanBody;
  @IsOptional() @IsBody(() => PlanBody) tolerance?: PlanBody;
  @IsOptional()
  @AreBodies(() => StatementBody, 50)
  statements?: StatementBody[];
}

const AreQuestions = () => AreBodies(() => QuestionBody, 50);

/** What students read of a change. */
const IsNotice = () =>
  applyDecorators(
    IsString(),
    MinLength(1, { message: 'Say what has changed: students read it.' }),
    MaxLength(2000),
  );

class TimesBody {
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
  @IsOptional() @IsUUID(undefined, { message: 'Choose folds that were kept.' }) foldSetId: string | null =
    null;
  @IsOptional() @IsBoolean() reissued = false;
  @AreQuestions() questions: QuestionBody[];
  @IsIn(['best', 'last']) counts: 'best' | 'last';
  @ValidateIf(({ opensAt }: ExerciseBody) => opensAt !== null)
  @IsISO8601({ strict: true }, { message: 'The time from which it is open is a date and time.' })
  opensAt: string | null = null;
  @IsIn(FEEDBACK_POLICIES) feedback: FeedbackPolicy;
}

export class AmendmentBody extends TimesBody implements Amendment {
  @IsNotice() notice: string;
}

export class CorrectionBody {
  @AreQuestions() questions: QuestionBody[];
}

export class CorrectionAppliedBody implements CorrectionApplied {
  @IsNotice() notice: string;
  @IsArray() @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) takenBack: string[];
}

export class ReleaseBody implements ReleaseRequest {
  @IsOptional() @IsString() @MaxLength(2000) reason = '';
}

export class OwnDeadlineBody implements OwnDeadline {
  @ValidateIf(({ deadline }: OwnDeadlineBody) => deadline !== null)
  @IsISO8601({ strict: true }, { message: 'The deadline is a date and time.' })
  deadline: string | null;
}

/** Settings with each question cut down to what its kind takes. */
export const settingsOf = ({ questions, ...settings }: ExerciseBody): ExerciseSettings => ({
  ...settings,
  questions: questions.map(questionOf),
});

export const correctionOf = ({ questions }: CorrectionBody): Correction => ({
  questions: questions.map(questionOf),
});

function questionOf(body: QuestionBody): Question {
  const { id, title, text, marks = 0, values = {} } = body;
  const head = { id, title, text };
  switch (body.kind) {
    case 'predictions':
    case 'model': {
      const {
        nothing = NaN,
        most = NaN,
        all = NaN,
        mostMarks = NaN,
        marks: of = NaN,
        doubt = false,
      } = body.scheme ?? {};
      const judged = {
        ...head,
        metric: body.metric ?? '',
        scheme: { nothing, most, all, mostMarks, marks: of, doubt },
      };
      return body.kind === 'model'
        ? { ...judged, kind: 'model', values }
        : { ...judged, kind: 'predictions' };
    }
    case 'split':
    case 'folds':
      return { ...head, kind: body.kind, marks, values };
    case 'curve':
      return { ...head, kind: 'curve', marks, values, run: body.run ?? null };
    case 'values':
      return {
        ...head,
        kind: 'values',
        marks,
        figures: planOf(body.figures),
        tolerance: planOf(body.tolerance),
      };
    case 'choice':
      return {
        ...head,
        kind: 'choice',
        marks,
        values,
        statements: (body.statements ?? []).map(({ text: said = '', truth = false, reading }) =>
          reading === undefined ? { text: said, truth } : { reading },
        ),
      };
  }
}

const planOf = (plan: PlanBody | undefined): Planned => ({
  kind: plan?.kind ?? '',
  values: plan?.values ?? {},
});
