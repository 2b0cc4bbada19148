import { CHECKER_VERSION, disclose, type Answer, type Result } from '@modest-sieve/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { AnswerKeyRecord, SheetRecord, unpackKeys } from '../exercises/answer-key.js';
import { ExerciseRecord, ExtensionRecord, PackRecord } from '../exercises/exercise.entity.js';
import { lateness } from '../exercises/policy.js';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { lockFor } from '../platform/database/lock.js';
import { announce } from '../platform/events/announce.js';
import { fetchFile } from '../platform/files/files.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import type { JobPayloads } from '../platform/jobs/queues.js';
import { SplitRecord } from '../splits/split.entity.js';
import { ReceiptRecord, ResultRecord, SubmissionRecord } from '../submissions/submission.entity.js';

/** What a student was last shown for a question: which answer, and its score. */
interface Shown {
  readonly id: string;
  readonly score: number;
}

/** Checks one submission: result into the vault, what may be disclosed into the receipt. Running twice stores one of each. */
@Injectable()
export class CheckJob implements JobHandler<JobPayloads['check']> {
  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
  ) {}

  async run({ submissionId }: JobPayloads['check'], { signal }: JobContext): Promise<void> {
    const db = await this.databases.of('worker');
    const submission = await db.findOneBy(SubmissionRecord, { id: submissionId });
    if (!submission || (await db.existsBy(ReceiptRecord, { submissionId }))) return;
    // What was shown last may change while this is checked: then it is compared with that.
    for (;;) {
      const exercise = await db.findOneByOrFail(ExerciseRecord, { id: submission.exerciseId });
      const stepped = exercise.feedback === 'only-when-better';
      const shown = stepped ? await lastShown(db, submission) : null;
      const marked = await this.mark(db, exercise, submission, { stepped, shown }, signal);
      if (await this.keep(db, exercise, submission, marked, shown)) return;
    }
  }

  private async mark(
    db: EntityManager,
    { id: exerciseId, revision, splitId, drawSeed }: ExerciseRecord,
    submission: SubmissionRecord,
    { stepped, shown }: { readonly stepped: boolean; readonly shown: Shown | null },
    signal: AbortSignal,
  ) {
    const { question: id } = submission;
    const { questions } = await db.findOneByOrFail(SheetRecord, { exerciseId, revision });
    const pack = await db.findOneByOrFail(PackRecord, { exerciseId });
    const record = await db.findOneByOrFail(AnswerKeyRecord, { exerciseId, revision });
    const { method } = await db.findOneByOrFail(SplitRecord, { id: splitId });
    const question = questions.find((one) => one.id === id);
    const released = pack.questions.find((one) => one.id === id);
    const kept = unpackKeys(record.key)[id];
    if (!question || !released || !kept) throw new TypeError(`question ${id} of ${exerciseId} has no key`);
    const earlier = shown && (await db.findOneByOrFail(SubmissionRecord, { id: shown.id }));
    const result = await this.compute.run(
      'mark',
      {
        question,
        rules: released.rules,
        key: kept.key,
        answer: await answerIn(db, submission),
        before: earlier && (await answerIn(db, earlier)),
        stepped,
        who: { seed: drawSeed, id: submission.personId },
      },
      signal,
    );
    return { result, keyId: record.id, revision, method };
  }

  /** Keeps result and receipt in one transaction; false where the student was shown another score meanwhile. */
  private keep(
    db: EntityManager,
    exercise: ExerciseRecord,
    submission: SubmissionRecord,
    { result, ...made }: { readonly result: Result; keyId: string; revision: number; method: string },
    shown: Shown | null,
  ): Promise<boolean> {
    const { id: submissionId, personId, question } = submission;
    return db.transaction(async (manager) => {
      await lockFor(manager, `receipts ${exercise.id} ${personId} ${question}`);
      const stepped = exercise.feedback === 'only-when-better';
      if (stepped && (await lastShown(manager, submission))?.id !== shown?.id) return false;
      const own = await manager.findOneBy(ExtensionRecord, { exerciseId: exercise.id, personId });
      await manager
        .createQueryBuilder()
        .insert()
        .into(ResultRecord)
        .values({ submissionId, ...made, checker: CHECKER_VERSION, result })
        .orIgnore()
        .execute();
      await manager
        .createQueryBuilder()
        .insert()
        .into(ReceiptRecord)
        .values({
          submissionId,
          stage: 'open',
          outcome: result.holds ? 'checked' : 'refused',
          disclosed: disclose(result, {
            policy: exercise.feedback,
            returned: false,
            shown: shown?.score ?? null,
            latePercent: lateness(exercise, own?.deadline, submission.receivedAt),
          }),
        })
        .orIgnore()
        .execute();
      await announce(manager, { courseId: exercise.courseId, to: personId });
      return true;
    });
  }

  orphans(manager: EntityManager): Promise<JobPayloads['check'][]> {
    return manager.query(
      `SELECT e.course_id AS "courseId", s.id AS "submissionId"
         FROM submission s JOIN exercise e ON e.id = s.exercise_id
        WHERE NOT EXISTS (SELECT 1 FROM receipt r WHERE r.submission_id = s.id)
          AND NOT EXISTS (SELECT 1 FROM pgboss.job j
                           WHERE j.name = 'check' AND j.id = s.id AND j.state IN ('created', 'retry', 'active'))`,
    );
  }
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

/** The score that the student was shown last for the question, which under *only when better* is the best one. */
async function lastShown(
  db: EntityManager,
  { exerciseId, personId, question }: SubmissionRecord,
): Promise<Shown | null> {
  const [shown]: Shown[] = await db.query(
    `SELECT s.id, (r.disclosed #>> '{scored,feedback,score}')::float AS score
       FROM receipt r JOIN submission s ON s.id = r.submission_id
      WHERE s.exercise_id = $1 AND s.person_id = $2 AND s.question = $3 AND r.stage = 'open'
        AND r.disclosed #>> '{scored,feedback,score}' IS NOT NULL
      ORDER BY r.created_at DESC LIMIT 1`,
    [exerciseId, personId, question],
  );
  return shown ?? null;
}
