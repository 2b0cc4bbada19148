import { applyDecorators } from '@nestjs/common';
import {
  ArrayMaxSize,
  IsArray,
  IsISO8601,
  IsString,
  IsUUID,
  MaxLength,
  MinLength,
  ValidateIf,
} from 'class-validator';
import type { Amendment, Correction, CorrectionApplied, OwnDeadline } from '../api/api.js';
import { AreQuestions, questionsOf, TimesBody } from '../exercises/exercise.dto.js';

/** What students read of a change. */
const IsNotice = () =>
  applyDecorators(
    IsString(),
    MinLength(1, { message: 'Say what has changed: students read it.' }),
    MaxLength(2000),
  );

export class AmendmentBody extends TimesBody implements Amendment {
  @IsNotice() notice: string;
}

export class CorrectionBody {
  @AreQuestions() questions: object[];
}

export class CorrectionAppliedBody implements CorrectionApplied {
  @IsNotice() notice: string;
  @IsArray() @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) takenBack: string[];
}

export class OwnDeadlineBody implements OwnDeadline {
  @ValidateIf(({ deadline }: OwnDeadlineBody) => deadline !== null)
  @IsISO8601({ strict: true }, { message: 'The deadline is a date and time.' })
  deadline: string | null;
}

/** @throws SieveError with the field that is not what it must be */
export const correctionOf = ({ questions }: CorrectionBody): Correction => ({
  questions: questionsOf(questions),
});
