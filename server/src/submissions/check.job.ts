import { questionKindOf, type Result, type ReleasedQuestion } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { ExerciseRecord, ExtensionRecord, PackRecord } from '../exercises/exercise.entity.js';
import { Compute } from '../platform/compute/compute.service.js';
import { ModelProcesses } from '../platform/models/model-process.js';
import { Databases } from '../platform/database/databases.js';
import { lockFor } from '../platform/database/lock.js';
import { announce } from '../platform/events/announce.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import { type JobKind, type JobPayload } from '../platform/jobs/job-kind.js';
import { ReceiptRecord, SubmissionRecord } from './submission.entity.js';
import { keepResult, markingOf } from './marking.js';
import { disclosedOf, lastShown, type Shown } from './disclosing.js';

interface CheckPayload extends JobPayload {
  readonly submissionId: string;
  readonly personId: string;
}

/** What both kinds of check have in common. */
const CHECK: Omit<
  JobKind<CheckPayload>,
  'name' | 'seconds' | 'retries' | 'atOnce' | 'runningOfPerson' | 'runningOfCourse'
> = {
  waiting: null,
  about: 'submissionId',
  isOnce: true,
  title: `SELECT format('%s, file %s of %s', e.title, s.number, p.name)
            FROM submission s JOIN exercise e ON e.id = s.exercise_id JOIN identity.person p ON p.id = s.person_id
           WHERE s.id = (j.data ->> 'submissionId')::uuid`,
  lastWord:
    'The check did not finish. Your file is kept and no attempt was used. Hand it in again, or ask your instructor.',
  cancelled:
    'The check was cancelled by your course. Your file is kept and no attempt was used. Hand it in again, or ask your instructor.',
  // The text of an error could reveal held-out rows.
  saysWhy: false,
  /** The student reads why there is no receipt. */
  async giveUp(manager, { courseId, submissionId }, { message }) {
    const written: { personId: string }[] = await manager.query(
      `WITH written AS (
         INSERT INTO receipt (submission_id, stage, outcome, disclosed, problem)
         SELECT $1::uuid, 'open', 'failed', NULL, $2::text
          WHERE NOT EXISTS (SELECT 1 FROM receipt WHERE submission_id = $1::uuid)
         ON CONFLICT DO NOTHING RETURNING submission_id)
       SELECT s.person_id AS "personId" FROM written JOIN submission s ON s.id = written.submission_id`,
      [submissionId, message],
    );
    for (const { personId } of written)
      await announce(manager, { courseId, to: personId, about: 'submissions' });
  },
  waitingSubjects: `SELECT e.course_id AS "courseId", s.id AS "submissionId", s.person_id AS "personId"
    FROM submission s JOIN exercise e ON e.id = s.exercise_id
   WHERE NOT EXISTS (SELECT 1 FROM receipt r WHERE r.submission_id = s.id)`,
};

/** A file of answers is checked. */
export const CHECK_JOB: JobKind<CheckPayload> = {
  ...CHECK,
  name: 'check',
  seconds: 25,
  retries: 5,
  atOnce: 4,
  runningOfPerson: 2,
  runningOfCourse: 64,
};

/** A submitted model is run and checked, in a lane of its own: it may take long, and files do not wait for it. */
export const MODEL_JOB: JobKind<CheckPayload> = {
  ...CHECK,
  name: 'model',
  seconds: 90,
  retries: 3,
  atOnce: 2,
  runningOfPerson: 1,
  runningOfCourse: 8,
};

/** The kind of check of answers to a kind of question. */
export const checkOf = (kind: ReleasedQuestion['kind']): JobKind<CheckPayload> =>
  questionKindOf(kind).isRun ? MODEL_JOB : CHECK_JOB;

/** Checks one submission: result into the vault, what may be disclosed into the receipt. Running twice stores one of each. */
@Injectable()
export class CheckJob implements JobHandler<CheckPayload> {
  readonly kinds = [CHECK_JOB, MODEL_JOB];

  constructor(
    private readonly databases: Databases,
    readonly compute: Compute,
    readonly models: ModelProcesses,
  ) {}

  async run({ submissionId }: CheckPayload, { signal }: JobContext): Promise<void> {
    const db = await this.databases.of('worker');
    const submission = await db.findOneBy(SubmissionRecord, { id: submissionId });
    if (!submission || (await db.existsBy(ReceiptRecord, { submissionId }))) return;
    // What was shown last may change while this is checked, and the exercise too: then it is checked by that.
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
    exercise: ExerciseRecord,
    submission: SubmissionRecord,
    { stepped, shown }: { readonly stepped: boolean; readonly shown: Shown | null },
    signal: AbortSignal,
  ) {
    const { id: exerciseId, revision } = exercise;
    const pack = await db.findOneByOrFail(PackRecord, { exerciseId });
    const marking = await markingOf(db, exercise, { revision, released: pack.questions });
    const result = await marking.mark(
      this,
      submission,
      { stepped, before: shown && (await db.findOneByOrFail(SubmissionRecord, { id: shown.id })) },
      signal,
    );
    return { result, keyId: marking.keyId, revision, method: marking.method };
  }

  /**
   * Keeps result and receipt in one transaction; false where the student was shown another score meanwhile, or the
   * exercise was corrected.
   */
  private keep(
    db: EntityManager,
    checked: ExerciseRecord,
    submission: SubmissionRecord,
    { result, ...made }: { readonly result: Result; keyId: string; revision: number; method: string },
    shown: Shown | null,
  ): Promise<boolean> {
    const { id: submissionId, personId, question } = submission;
    return db.transaction(async (manager) => {
      await lockFor(manager, `receipts ${checked.id} ${personId} ${question}`);
      // Neither corrected nor amended until this is kept.
      const exercise = await manager.findOneOrFail(ExerciseRecord, {
        where: { id: checked.id },
        lock: { mode: 'pessimistic_read' },
      });
      if (exercise.revision !== made.revision) return false;
      const stepped = exercise.feedback === 'only-when-better';
      if (stepped && (await lastShown(manager, submission))?.id !== shown?.id) return false;
      const own = await manager.findOneBy(ExtensionRecord, { exerciseId: exercise.id, personId });
      await keepResult(manager, { submissionId, ...made, result });
      await manager
        .createQueryBuilder()
        .insert()
        .into(ReceiptRecord)
        .values({
          submissionId,
          stage: 'open',
          outcome: result.holds ? 'checked' : 'refused',
          disclosed: disclosedOf(exercise, result, {
            stage: 'open',
            receivedAt: submission.receivedAt,
            deadline: own?.deadline,
            shown,
            adjustment: null,
            comment: null,
          }),
        })
        .orIgnore()
        .execute();
      await announce(manager, { courseId: exercise.courseId, to: personId, about: 'submissions' });
      return true;
    });
  }
}
