import { disclose, type Adjustment, type Disclosed, type Result } from '@modest-sieve/core/assessment';
import type { EntityManager } from 'typeorm';
import type { ExerciseRecord } from '../exercises/exercise.entity.js';
import { lateness } from '../exercises/policy.js';
import type { ReceiptRecord, SubmissionRecord } from './submission.entity.js';

/**
 * The order in which a student got receipts for a question: under *only when better* each is measured by what was
 * shown before it.
 */
export const IN_TURN = `s.person_id, s.question,
  (SELECT created_at FROM receipt WHERE submission_id = s.id AND stage = 'open' AND issue = 1), s.number`;

/** The answer of a student to a question whose score was the last to be shown: under *only when better* the best one. */
export interface Shown {
  readonly id: string;
  readonly score: number;
}

/** What was shown last, after the receipt of one more answer. */
export const shownAfter = (
  id: string,
  disclosed: Pick<Disclosed, 'scored'>,
  before: Shown | null,
): Shown | null => {
  const score = disclosed.scored?.feedback?.score ?? null;
  return score === null ? before : { id, score };
};

/** What was shown last to the student of a submission for its question. Of an answer the last receipt holds. */
export async function lastShown(
  db: EntityManager,
  { exerciseId, personId, question }: SubmissionRecord,
): Promise<Shown | null> {
  const receipts: { id: string; scored: Disclosed['scored'] }[] = await db.query(
    `SELECT s.id, r.disclosed -> 'scored' AS scored FROM submission s
       JOIN LATERAL (SELECT disclosed FROM receipt WHERE submission_id = s.id AND stage = 'open'
                      ORDER BY issue DESC LIMIT 1) r ON true
      WHERE s.exercise_id = $1 AND s.person_id = $2 AND s.question = $3 ORDER BY ${IN_TURN}`,
    [exerciseId, personId, question],
  );
  return receipts.reduce<Shown | null>((shown, { id, scored }) => shownAfter(id, { scored }, shown), null);
}

/** What the receipt of an answer shows its student, at a stage of the exercise. */
export const disclosedOf = (
  exercise: ExerciseRecord,
  result: Result,
  {
    stage,
    receivedAt,
    deadline,
    shown,
    adjustment,
    comment,
  }: {
    readonly stage: ReceiptRecord['stage'];
    readonly receivedAt: Date;
    /** The student's own. */
    readonly deadline: Date | undefined;
    /** What was shown before. */
    readonly shown: Shown | null;
    readonly adjustment: Adjustment | null;
    readonly comment: string | null;
  },
): Disclosed =>
  disclose(result, {
    policy: exercise.feedback,
    slips: exercise.slips,
    returned: stage === 'returned',
    shown: shown?.score ?? null,
    latePercent: lateness(exercise, deadline, receivedAt),
    adjustment,
    comment,
  });
