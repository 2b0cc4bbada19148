import { randomInt } from 'node:crypto';
import { feedbackShare, LARGEST_SEED, SieveError } from '@modest-sieve/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { ABANDON } from '../platform/jobs/abandon.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import type { JobPayloads } from '../platform/jobs/queues.js';
import { AnswerKeyRecord, packKeys, SheetRecord } from './answer-key.js';
import { ExerciseRecord, PackRecord, zipped } from './exercise.entity.js';
import { fetchExerciseMaterial, runsUsed } from './material.js';

/** Makes the pack and the keys of an exercise that is being released. Running twice stores one of each. */
@Injectable()
export class PackJob implements JobHandler<JobPayloads['pack']> {
  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
  ) {}

  async run(payload: JobPayloads['pack'], { signal, progress }: JobContext): Promise<void> {
    const { exerciseId } = payload;
    const db = await this.databases.of('worker');
    const exercise = await db.findOneBy(ExerciseRecord, { id: exerciseId, state: 'packing' });
    if (!exercise) return;
    const { title, brief, revision, feedback, reissued } = exercise;
    const { questions } = await db.findOneByOrFail(SheetRecord, { exerciseId, revision });
    await progress('making the pack and the keys', 0, 2);
    // Neither derived from anything that students see, nor told to anyone.
    const secretSeed = randomInt(LARGEST_SEED);
    try {
      const pack = await this.compute.run(
        'pack',
        {
          ...(await fetchExerciseMaterial(db, exercise)),
          questions,
          title,
          brief,
          reissued,
          feedbackShare: feedbackShare(feedback),
          secretSeed,
        },
        signal,
      );
      await progress('keeping them', 1, 2);
      await db.transaction(async (manager) => {
        const taken = await manager.update(
          ExerciseRecord,
          { id: exerciseId, state: 'packing' },
          { state: 'released', releasedAt: new Date(), problem: null },
        );
        if (taken.affected !== 1) return;
        await manager.insert(PackRecord, {
          exerciseId,
          ...zipped(pack.zip),
          files: [...pack.files],
          questions: [...pack.questions],
        });
        await manager.insert(AnswerKeyRecord, {
          exerciseId,
          revision,
          key: packKeys(pack.keys),
          audit: [...pack.audit],
          seed: secretSeed,
          runs: await runsUsed(manager, exercise.splitId, questions),
        });
        await announce(manager, { courseId: exercise.courseId, to: 'all' });
      });
    } catch (error) {
      if (!(error instanceof SieveError)) throw error;
      const { code, message } = error;
      await db.transaction((manager) => ABANDON.pack(manager, payload, { code, message }));
    }
  }

  orphans(manager: EntityManager): Promise<JobPayloads['pack'][]> {
    return manager.query(
      `SELECT e.course_id AS "courseId", e.id AS "exerciseId" FROM exercise e
        WHERE e.state = 'packing'
          AND NOT EXISTS (SELECT 1 FROM pgboss.job j
                           WHERE j.name = 'pack' AND j.data ->> 'exerciseId' = e.id::text
                             AND j.state IN ('created', 'retry', 'active'))`,
    );
  }
}
