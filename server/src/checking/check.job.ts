import { CHECKER_VERSION, disclose } from '@modest-sieve/core';
import { Injectable } from '@nestjs/common';
import { AnswerKeyRecord, unpackKey } from '../exercises/answer-key.js';
import { ExerciseRecord, PackRecord } from '../exercises/exercise.entity.js';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { fetchFile } from '../platform/files/files.js';
import { JOBS } from '../platform/jobs/queues.js';
import { SplitRecord } from '../splits/split.entity.js';
import { ReceiptRecord, ResultRecord, SubmissionRecord } from '../submissions/submission.entity.js';

/** Checks one submission: result into the vault, what may be disclosed into the receipt. Running twice stores one of each. */
@Injectable()
export class CheckJob {
  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
  ) {}

  async run({ submissionId }: { submissionId: string }): Promise<void> {
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
      JOBS.check.seconds,
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

  /** After the last failure: the receipt says what happened, and the attempt is not used. */
  async fail(submissionId: string, problem: string): Promise<void> {
    const db = await this.databases.of('worker');
    const submission = await db.findOneByOrFail(SubmissionRecord, { id: submissionId });
    const exercise = await db.findOneByOrFail(ExerciseRecord, { id: submission.exerciseId });
    await db.transaction(async (manager) => {
      await manager
        .createQueryBuilder()
        .insert()
        .into(ReceiptRecord)
        .values({ submissionId, stage: 'open', outcome: 'failed', disclosed: null, problem })
        .orIgnore()
        .execute();
      await announce(manager, { courseId: exercise.courseId, to: submission.personId });
    });
  }
}
