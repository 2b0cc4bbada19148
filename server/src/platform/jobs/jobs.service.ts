import { Inject, Injectable } from '@nestjs/common';
import PgBoss from 'pg-boss';
import type { EntityManager } from 'typeorm';
import { CONFIG } from '../config/config.module.js';
import { Problem } from '../errors/problem.js';
import { databaseUrl, type Config } from '../config/config.js';
import { JOBS, type JobKind, type JobPayloads } from './queues.js';

/** Enqueues jobs within the caller's transaction: a job exists if and only if what it is about was stored. */
@Injectable()
export class Jobs {
  private readonly boss: PgBoss;

  constructor(@Inject(CONFIG) config: Config) {
    // Never started: it only writes the statement that the caller's transaction runs.
    this.boss = new PgBoss({ connectionString: databaseUrl(config, 'student'), supervise: false });
  }

  async enqueue<K extends JobKind>(manager: EntityManager, kind: K, payload: JobPayloads[K]): Promise<void> {
    const runner = manager.queryRunner;
    if (!runner) throw new TypeError('a job is enqueued within a transaction');
    const executeSql = async (text: string, values: unknown[]) => {
      const result = await runner.query(text, values, true);
      const rows = result.records as unknown[];
      return { rows, rowCount: result.affected ?? rows.length };
    };
    const { uniqueKey, waiting } = JOBS[kind];
    if (waiting !== null) await checkWaiting(manager, kind, payload.courseId, waiting);
    const id = uniqueKey ? { id: uniqueKey(payload) } : {};
    await this.boss.send(kind, payload, { ...id, db: { executeSql } });
  }
}

/** @throws Problem 429 `too-many-jobs` where as many jobs of a kind wait for a course as may */
async function checkWaiting(
  manager: EntityManager,
  kind: JobKind,
  courseId: string,
  most: number,
): Promise<void> {
  const [found]: { n: number }[] = await manager.query(
    `SELECT count(*)::int AS n FROM pgboss.job
      WHERE name = $1 AND state < 'active' AND data ->> 'courseId' = $2`,
    [kind, courseId],
  );
  if (found && found.n >= most)
    throw new Problem(
      429,
      'too-many-jobs',
      `${found.n} jobs of this kind wait for the course. Ask for the next one when some of them are done.`,
      {},
      30,
    );
}
