import { marksOfAnswer, type Question } from '@modest-sieve/core/assessment';
import type { EntityManager } from 'typeorm';
import type { CorrectionInfo, SubmissionInfo } from '../api/api.js';
import type { ExerciseRecord } from '../exercises/exercise.entity.js';
import { Problem } from '../platform/errors/problem.js';

/** Answers with marks by hand of which the correction finds other marks than were found before. */
export function adjustedAmong(
  before: readonly SubmissionInfo[],
  after: readonly SubmissionInfo[],
): CorrectionInfo['adjusted'] {
  const found = ({ result, latePercent }: SubmissionInfo) =>
    result && marksOfAnswer(result, latePercent, null);
  const now = new Map(after.map((one) => [one.id, one]));
  return before.flatMap((one) => {
    const then = now.get(one.id);
    if (!one.adjustment || !then?.result) return [];
    const { id: submission, person, question, adjustment } = one;
    const marks = { before: found(one), after: found(then) };
    return marks.before === marks.after
      ? []
      : [{ submission, person, question, given: adjustment.marks, found: marks }];
  });
}

/** Whether an answer is marked by what holds, and not by the correction. */
export async function unmarked(
  db: EntityManager,
  { id, revision }: ExerciseRecord,
  corrected: number,
): Promise<boolean> {
  const missing: unknown[] = await db.query(
    `SELECT 1 FROM submission s JOIN vault.result v ON v.submission_id = s.id AND v.revision = $2
      WHERE s.exercise_id = $1
        AND NOT EXISTS (SELECT 1 FROM vault.result c WHERE c.submission_id = s.id AND c.revision = $3) LIMIT 1`,
    [id, revision, corrected],
  );
  return missing.length > 0;
}

/** @throws Problem where other questions are asked, or in another order */
export function checkSameQuestions(before: readonly Question[], after: readonly Question[]): void {
  const names = (questions: readonly Question[]) => questions.map(({ id, kind }) => `${id} ${kind}`).join();
  if (names(before) !== names(after))
    throw new Problem(
      422,
      'asks-other',
      'A correction has the questions that students have, in their order. Set a new exercise to ask others.',
      { field: 'questions' },
    );
}
