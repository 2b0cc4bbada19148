import { metricNamed } from '@modest-sieve/core/metrics';
import { disclose, type Result } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { ExerciseRecord, ExtensionRecord, PackRecord } from '../exercises/exercise.entity.js';
import { lateness } from '../exercises/policy.js';
import { Compute } from '../platform/compute/compute.service.js';
import { ModelProcesses } from '../platform/models/model-process.js';
import { Databases } from '../platform/database/databases.js';
import { lockFor } from '../platform/database/lock.js';
import { announce } from '../platform/events/announce.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import type { JobPayloads } from '../platform/jobs/queues.js';
import { ReceiptRecord, SubmissionRecord } from '../submissions/submission.entity.js';
import { keepResult, markingOf } from './marking.js';

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
    readonly compute: Compute,
    readonly models: ModelProcesses,
  ) {}

  async run({ submissionId }: JobPayloads['check'], { signal }: JobContext): Promise<void> {
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
          disclosed: disclose(result, {
            policy: exercise.feedback,
            returned: false,
            shown: shown?.score ?? null,
            latePercent: lateness(exercise, own?.deadline, submission.receivedAt),
            adjustment: null,
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
      `SELECT e.course_id AS "courseId", s.id AS "submissionId", s.person_id AS "personId"
         FROM submission s JOIN exercise e ON e.id = s.exercise_id
        WHERE NOT EXISTS (SELECT 1 FROM receipt r WHERE r.submission_id = s.id)
          AND NOT EXISTS (SELECT 1 FROM pgboss.job j
                           WHERE j.name IN ('check', 'model') AND j.id = s.id AND j.state IN ('created', 'retry', 'active'))`,
    );
  }
}

/**
 * The best score that the student was shown for the question: under *only when better* the last one. Of an answer whose
 * receipt was issued again the last receipt holds.
 */
async function lastShown(
  db: EntityManager,
  { exerciseId, personId, question }: SubmissionRecord,
): Promise<Shown | null> {
  const receipts: { id: string; score: number | null; metric: string }[] = await db.query(
    `SELECT DISTINCT ON (s.id) s.id, (r.disclosed #>> '{scored,feedback,score}')::float AS score,
            r.disclosed #>> '{scored,metric}' AS metric
       FROM receipt r JOIN submission s ON s.id = r.submission_id
      WHERE s.exercise_id = $1 AND s.person_id = $2 AND s.question = $3 AND r.stage = 'open'
      ORDER BY s.id, r.issue DESC`,
    [exerciseId, personId, question],
  );
  return receipts.reduce<Shown | null>((best, { id, score, metric }) => {
    if (score === null) return best;
    const way = metricNamed(metric).better === 'higher' ? 1 : -1;
    return best === null || way * score > way * best.score ? { id, score } : best;
  }, null);
}
