import { Inject, Injectable } from '@nestjs/common';
import PgBoss from 'pg-boss';
import type { EntityManager } from 'typeorm';
import { CONFIG } from '../config/config.module.js';
import { Problem } from '../errors/problem.js';
import { databaseUrl, type Config } from '../config/config.js';
import { KEPT_ALIVE } from '../config/line.js';
import type { JobKind, JobPayload } from './job-kind.js';
import { UNDER_WAY } from './orphans.js';

/** Where workers hear, once the transaction is committed, that there is a job of a kind. */
export const JOBS_CHANNEL = 'sieve_jobs';

/** Enqueues jobs within the caller's transaction: a job exists if and only if what it is about was stored. */
@Injectable()
export class Jobs {
  private readonly boss: PgBoss;

  constructor(@Inject(CONFIG) config: Config) {
    // Never started: it only writes the statement that the caller's transaction runs.
    this.boss = new PgBoss({
      connectionString: databaseUrl(config, 'student'),
      ...KEPT_ALIVE,
      supervise: false,
    });
  }

  /** @param isAgain whether there may be a job about the same subject already, which is over */
  async enqueue<P extends JobPayload>(
    manager: EntityManager,
    kind: JobKind<P>,
    payload: P,
    { isAgain = false } = {},
  ): Promise<void> {
    const { name, isOnce, about, waiting } = kind;
    if (waiting !== null) await checkWaiting(manager, name, payload.courseId, waiting);
    const id = isOnce && !isAgain ? { id: String(payload[about]) } : {};
    await this.boss.send(name, payload, { ...id, db: within(manager) });
    await manager.query('SELECT pg_notify($1, $2)', [JOBS_CHANNEL, name]);
  }

  /** Ends a job that is not done yet. @returns whether there was one */
  async cancel(manager: EntityManager, kind: JobKind, id: string): Promise<boolean> {
    const found: unknown[] = await manager.query(
      `SELECT 1 FROM pgboss.job WHERE name = $1 AND id = $2 AND state IN ${UNDER_WAY} FOR UPDATE`,
      [kind.name, id],
    );
    if (found.length === 0) return false;
    await this.boss.cancel(kind.name, id, { db: within(manager) });
    return true;
  }

  /** Whether a job of a kind about a subject is not done yet. */
  async isUnderWay<P extends JobPayload>(
    manager: EntityManager,
    kind: JobKind<P>,
    payload: Partial<P>,
  ): Promise<boolean> {
    const found: unknown[] = await manager.query(
      `SELECT 1 FROM pgboss.job WHERE name = $1 AND data @> $2 AND state IN ${UNDER_WAY} LIMIT 1`,
      [kind.name, payload],
    );
    return found.length > 0;
  }
}

/** The transaction of a manager, as the queue takes it. */
export function within({ queryRunner: runner }: EntityManager): PgBoss.Db {
  if (!runner) throw new TypeError('a job is enqueued within a transaction');
  return {
    async executeSql(text, values) {
      const result = await runner.query(text, values, true);
      const rows = result.records as unknown[];
      return { rows, rowCount: result.affected ?? rows.length };
    },
  };
}

/** @throws Problem 429 `too-many-jobs` where as many jobs of a kind wait for a course as may */
async function checkWaiting(
  manager: EntityManager,
  name: string,
  courseId: string,
  most: number,
): Promise<void> {
  const [found]: { n: number }[] = await manager.query(
    `SELECT count(*)::int AS n FROM pgboss.job
      WHERE name = $1 AND state < 'active' AND data ->> 'courseId' = $2`,
    [name, courseId],
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
