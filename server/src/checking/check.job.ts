import { CHECKER_VERSION, disclose } from '@modest-sieve/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { AnswerKeyRecord, unpackKey } from '../exercises/answer-key.js';
import { ExerciseRecord, PackRecord } from '../exercises/exercise.entity.js';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { fetchFile } from '../platform/files/files.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import type { JobPayloads } from '../platform/jobs/queues.js';
import { SplitRecord } from '../splits/split.entity.js';
import { ReceiptRecord, ResultRecord, SubmissionRecord } from '../submissions/submission.entity.js';

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
    const exercise = await db.findOneByOrFail(ExerciseRecord, { id: submission.exerciseId });
    const { rules } = await db.findOneByOrFail(PackRecord, { exerciseId: exercise.id });
    const key = await db.findOneByOrFail(AnswerKeyRecord, {
      exerciseId: exercise.id,
      revision: exercise.revision,
    });
    const split = await db.findOneByOrFail(SplitRecord, { id: exercise.splitId });
    const result = await this.compute.run(
      'mark',
      {
        bytes: await fetchFile(db, 'public', submission.fileSha256),
        file: submission.fileName,
        rules,
        key: unpackKey(key.key),
        metric: exercise.metric,
        scheme: exercise.scheme,
        seed: key.seed,
      },
      signal,
    );
    await db.transaction(async (manager) => {
      await manager
        .createQueryBuilder()
        .insert()
        .into(ResultRecord)
        .values({
          submissionId,
          revision: exercise.revision,
          keyId: key.id,
          checker: CHECKER_VERSION,
          method: split.method,
          result,
        })
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
          disclosed: disclose(result, exercise.feedback, false),
        })
        .orIgnore()
        .execute();
      await announce(manager, { courseId: exercise.courseId, to: submission.personId });
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
