import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Databases } from '../platform/database/databases.js';
import type { JobHandler } from '../platform/jobs/handler.js';
import type { JobPayloads } from '../platform/jobs/queues.js';
import { ExerciseRecord, PackRecord } from './exercise.entity.js';
import { keepOwnSheets } from './own-sheets.js';
import { secretOf } from './secret.entity.js';

/** Generates the sheets that are a student's own. Running twice keeps what running once kept. */
@Injectable()
export class SheetsJob implements JobHandler<JobPayloads['sheets']> {
  constructor(private readonly databases: Databases) {}

  async run({ exerciseId, personId }: JobPayloads['sheets']): Promise<void> {
    const db = await this.databases.of('worker');
    await db.transaction(async (manager) => {
      // Neither withdrawn nor corrected until they are kept.
      const exercise = await manager.findOne(ExerciseRecord, {
        where: { id: exerciseId },
        lock: { mode: 'pessimistic_read' },
      });
      const pack = exercise && (await manager.findOneBy(PackRecord, { exerciseId }));
      if (!pack) return;
      const secret = await secretOf(manager, exerciseId);
      await keepOwnSheets(manager, exercise, { questions: pack.questions, secret, people: [personId] });
    });
  }

  /** Nobody waits for long: a sheet that is still missing is asked for again with the next look. */
  orphans(): Promise<JobPayloads['sheets'][]> {
    return Promise.resolve([]);
  }
}

/** Asks for the sheets of a student, unless a job for them waits already. */
export async function sheetsAreAskedFor(
  manager: EntityManager,
  { exerciseId, personId }: Pick<JobPayloads['sheets'], 'exerciseId' | 'personId'>,
): Promise<boolean> {
  const waiting: unknown[] = await manager.query(
    `SELECT 1 FROM pgboss.job WHERE name = 'sheets' AND data ->> 'exerciseId' = $1 AND data ->> 'personId' = $2
        AND state IN ('created', 'retry', 'active') LIMIT 1`,
    [exerciseId, personId],
  );
  return waiting.length > 0;
}
