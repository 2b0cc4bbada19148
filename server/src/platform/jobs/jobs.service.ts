import { Inject, Injectable } from '@nestjs/common';
import PgBoss from 'pg-boss';
import type { EntityManager } from 'typeorm';
import { CONFIG } from '../config/config.module.js';
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
    const { priority, uniqueKey } = JOBS[kind];
    const id = uniqueKey ? { id: uniqueKey(payload) } : {};
    await this.boss.send(kind, payload, { priority, ...id, db: { executeSql } });
  }
}
