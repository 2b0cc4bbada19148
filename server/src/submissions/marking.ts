import {
  CHECKER_VERSION,
  type Answer,
  type ReleasedQuestion,
  type Result,
} from '@modest-sieve/core/assessment';
import type { EntityManager } from 'typeorm';
import { AnswerKeyRecord, SheetRecord, unpackKeys } from '../exercises/answer-key.js';
import type { ExerciseRecord } from '../exercises/exercise.entity.js';
import { secretOf } from '../exercises/secret.entity.js';
import type { ModelProcesses } from '../platform/models/model-process.js';
import { ranAnswer } from '../exercises/ran-answer.js';
import type { Compute } from '../platform/compute/compute.service.js';
import { fetchFile } from '../platform/files/files.js';
import { SplitRecord } from '../store/split.entity.js';
import { ResultRecord, type SubmissionRecord } from './submission.entity.js';
import { EXERCISE_TASKS } from '../exercises/exercise.tasks.js';

interface Before {
  /** Whether the steps of *only when better* are needed. */
  readonly stepped: boolean;
  /** The student's answer whose score was the last to be shown; null for none. */
  readonly before: SubmissionRecord | null;
}

/** What runs models, and what marks. */
export interface Markers {
  readonly compute: Compute;
  readonly models: ModelProcesses;
}

/** Questions and keys of one revision of an exercise, by which answers are marked. */
export interface MarkingBy {
  readonly keyId: string;
  readonly method: string;
  mark(by: Markers, submission: SubmissionRecord, before: Before, signal: AbortSignal): Promise<Result>;
}

/** What marks the answers to an exercise, fetched once. */
export async function markingOf(
  db: EntityManager,
  { id: exerciseId, splitId }: ExerciseRecord,
  { revision, released }: { readonly revision: number; readonly released: readonly ReleasedQuestion[] },
): Promise<MarkingBy> {
  const { questions } = await db.findOneByOrFail(SheetRecord, { exerciseId, revision });
  const record = await db.findOneByOrFail(AnswerKeyRecord, { exerciseId, revision });
  const { method } = await db.findOneByOrFail(SplitRecord, { id: splitId });
  const keys = unpackKeys(record.key);
  const secret = await secretOf(db, exerciseId);
  return {
    keyId: record.id,
    method,
    async mark({ compute, models }, submission, { stepped, before }, signal) {
      const { question: id, personId } = submission;
      const question = questions.find((one) => one.id === id);
      const sheet = released.find((one) => one.id === id);
      const kept = keys[id];
      if (!question || !sheet || !kept) throw new TypeError(`question ${id} of ${exerciseId} has no key`);
      const by = { rules: sheet.rules, key: kept.key };
      const answer = async (one: SubmissionRecord) => ranAnswer(models, await answerIn(db, one), by, signal);
      return compute.run(
        EXERCISE_TASKS.mark,
        {
          question,
          ...by,
          answer: await answer(submission),
          before: before && (await answer(before)),
          stepped,
          who: { secret, question: id, id: personId },
        },
        signal,
      );
    },
  };
}

/** An answer as it was handed in. */
const answerIn = async (
  db: EntityManager,
  { fileName, fileSha256, fields }: SubmissionRecord,
): Promise<Answer> => ({
  file:
    fileSha256 === null
      ? null
      : { name: fileName ?? 'the file', bytes: new Uint8Array(await fetchFile(db, 'public', fileSha256)) },
  fields,
});

/** Keeps a result; the same one is kept once. */
export async function keepResult(
  db: EntityManager,
  result: Pick<ResultRecord, 'submissionId' | 'revision' | 'keyId' | 'method' | 'result'>,
): Promise<void> {
  const values = { ...result, checker: CHECKER_VERSION };
  await db.createQueryBuilder().insert().into(ResultRecord).values(values).orIgnore().execute();
}
