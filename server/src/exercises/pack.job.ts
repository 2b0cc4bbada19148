import { createHash, randomInt } from 'node:crypto';
import { feedbackShare, LARGEST_SEED, SieveError } from '@modest-sieve/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { DataSetRecord, RolesRecord, VersionRecord } from '../datasets/dataset.entity.js';
import { fetchColumns } from '../datasets/table-store.js';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { ABANDON } from '../platform/jobs/abandon.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import type { JobPayloads } from '../platform/jobs/queues.js';
import { fetchFolds } from '../splits/folds.service.js';
import { SplitAssignment, SplitRecord } from '../splits/split.entity.js';
import { AnswerKeyRecord, packKey } from './answer-key.js';
import { ExerciseRecord, PackRecord } from './exercise.entity.js';

/** Makes the pack and the key of an exercise that is being released. Running twice stores one of each. */
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
    const split = await db.findOneByOrFail(SplitRecord, { id: exercise.splitId });
    const { roles } = await db.findOneByOrFail(RolesRecord, { id: split.rolesId });
    const version = await db.findOneByOrFail(VersionRecord, { id: split.versionId });
    const dataSet = await db.findOneByOrFail(DataSetRecord, { id: version.dataSetId });
    const folds = exercise.foldSetId === null ? null : await fetchFolds(db, exercise.foldSetId);
    const { parts } = await db.findOneByOrFail(SplitAssignment, { splitId: split.id });
    await progress('making the pack', 0, 2);
    // Neither derived from anything that students see, nor told to anyone.
    const secretSeed = randomInt(LARGEST_SEED);
    try {
      const pack = await this.compute.run(
        'pack',
        {
          stored: await fetchColumns(db, version),
          roles,
          plan: split.plan,
          parts: new Int8Array(parts),
          folds,
          descriptions: dataSet.descriptions,
          metric: exercise.metric,
          brief: `# ${exercise.title}\n\n${exercise.brief}`,
          feedbackShare: feedbackShare(exercise.feedback),
          secretSeed,
        },
        signal,
      );
      await progress('keeping the pack', 1, 2);
      await db.transaction(async (manager) => {
        const taken = await manager.update(
          ExerciseRecord,
          { id: exerciseId, state: 'packing' },
          { state: 'released', releasedAt: new Date(), problem: null },
        );
        if (taken.affected !== 1) return;
        const zip = Buffer.from(pack.zip);
        await manager.insert(PackRecord, {
          exerciseId,
          zip,
          sha256: createHash('sha256').update(zip).digest('hex'),
          files: [...pack.files],
          rules: pack.rules,
        });
        await manager.insert(AnswerKeyRecord, {
          exerciseId,
          revision: exercise.revision,
          key: packKey(pack.key),
          audit: [...pack.audit],
          seed: secretSeed,
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
