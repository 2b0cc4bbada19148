import type { AnswerKey, Keys, PredictionRules, ReleasedQuestion } from '@modest-sieve/core/assessment';
import type { EntityManager } from 'typeorm';
import { AnswerKeyRecord, unpackKeys } from '../exercises/answer-key.js';
import { PackRecord, type ExerciseRecord } from '../exercises/exercise.entity.js';
import { notFound } from '../platform/errors/problem.js';

/** A question with what its answers are judged by. */
export interface JudgedBy {
  readonly question: ReleasedQuestion;
  readonly key: Keys;
}

/**
 * A question with its key.
 *
 * @throws Problem where there is no such question
 */
export async function judgedBy(
  db: EntityManager,
  { id: exerciseId, revision }: ExerciseRecord,
  id: string,
): Promise<JudgedBy> {
  const pack = await db.findOneBy(PackRecord, { exerciseId });
  const question = pack?.questions.find((one) => one.id === id);
  const record = await db.findOneBy(AnswerKeyRecord, { exerciseId, revision });
  const key = record && unpackKeys(record.key)[id]?.key;
  if (!question || !key) throw notFound();
  return { question, key };
}

/** The same of a question of predictions; null of others. */
export function predictionsBy({
  question: { rules },
  key,
}: JudgedBy): { rules: PredictionRules & { readonly metric: string }; key: AnswerKey } | null {
  const asks = 'needs' in rules && 'identifiers' in rules && 'feedback' in key;
  return asks ? { rules, key } : null;
}
