import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import PgBoss from 'pg-boss';
import { ImportJob } from '../datasets/import.job.js';
import { PackJob } from '../exercises/pack.job.js';
import { CONFIG } from '../platform/config/config.module.js';
import { databaseUrl, type Config } from '../platform/config/config.js';
import { JOBS, type JobKind, type JobPayloads } from '../platform/jobs/queues.js';
import { CheckJob } from './check.job.js';

type Handlers = { readonly [K in JobKind]: JobHandler<JobPayloads[K]> };

interface JobHandler<P> {
  run(payload: P): Promise<void>;
  /** Called once, after the last retry. */
  giveUp(payload: P, message: string): Promise<void>;
}

const POLL_SECONDS = 0.5;
const MAINTENANCE_SECONDS = 5;

/** Takes jobs from the queues of the database and runs them; what a killed worker left is taken up by another. */
@Injectable()
export class Runner implements OnApplicationShutdown {
  private readonly log = new Logger('Runner');
  private readonly boss: PgBoss;
  private readonly handlers: Handlers;

  constructor(@Inject(CONFIG) config: Config, imports: ImportJob, packs: PackJob, checks: CheckJob) {
    this.boss = new PgBoss({
      connectionString: databaseUrl(config, 'worker'),
      migrate: false,
      schedule: false,
      maintenanceIntervalSeconds: MAINTENANCE_SECONDS,
      max: 4,
    });
    this.boss.on('error', (error) => this.log.warn(`the queue: ${error.message}`));
    this.handlers = {
      import: { run: (p) => imports.run(p), giveUp: (p, m) => imports.fail(p.importId, 'gave-up', m) },
      pack: { run: (p) => packs.run(p), giveUp: (p, m) => packs.fail(p.exerciseId, 'gave-up', m) },
      check: { run: (p) => checks.run(p), giveUp: (p, m) => checks.fail(p.submissionId, m) },
    };
  }

  async start(): Promise<void> {
    await this.boss.start();
    for (const kind of Object.keys(JOBS) as JobKind[]) await this.work(kind);
  }

  private async work(kind: JobKind): Promise<void> {
    const options = { pollingIntervalSeconds: POLL_SECONDS, includeMetadata: true as const };
    await this.boss.work<never>(kind, options, async (jobs) => {
      for (const job of jobs) {
        try {
          await this.handlers[kind].run(job.data);
        } catch (error) {
          this.log.error(
            `${kind} ${job.id}: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`,
          );
          if (job.retryCount < job.retryLimit) throw error;
          await this.handlers[kind].giveUp(job.data, JOBS[kind].lastWord);
        }
      }
    });
  }

  async onApplicationShutdown(): Promise<void> {
    await this.boss.stop({ graceful: true, timeout: 10_000 });
  }
}
