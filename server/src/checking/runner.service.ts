import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import PgBoss from 'pg-boss';
import { ImportJob } from '../datasets/import.job.js';
import { PrepareJob } from '../datasets/prepare.job.js';
import { PackJob } from '../exercises/pack.job.js';
import { SheetsJob } from '../exercises/sheets.job.js';
import { CONFIG } from '../platform/config/config.module.js';
import { TrialJob } from '../trials/trial.job.js';
import { databaseUrl, type Config } from '../platform/config/config.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { ABANDON } from '../platform/jobs/abandon.js';
import type { JobContext, JobHandlers } from '../platform/jobs/handler.js';
import { JOB_KINDS, JOBS, type JobKind, type JobPayloads } from '../platform/jobs/queues.js';
import { deleteIdleFiles } from '../platform/files/upkeep.js';
import { forgetTurns, takeNextJob, type TakenJob } from '../platform/jobs/turns.js';
import { jobsGivenUp, jobSeconds } from '../platform/operation/metrics.js';
import { CheckJob } from './check.job.js';
import { RemarkJob } from './remark.job.js';

const POLL = 500;
const MAINTENANCE_SECONDS = 5;
/** Milliseconds after which what nobody needs is deleted again. */
const UPKEEP = 10 * 60_000;
/** How long a worker that is told to stop lets its jobs go on. */
const GRACE = 10_000;

interface Running<K extends JobKind> {
  readonly kind: K;
  readonly id: string;
  readonly payload: JobPayloads[K];
  readonly lastTry: boolean;
}

/** Takes jobs from the queues of the database and runs them; what a killed worker left is taken up by another. */
@Injectable()
export class Runner implements OnApplicationShutdown {
  private readonly log = new Logger('Runner');
  private readonly boss: PgBoss;
  private readonly handlers: JobHandlers;
  private readonly running = new Map<string, { stop: AbortController; done: Promise<void> }>();
  private readonly timers: NodeJS.Timeout[] = [];
  private stopping = false;

  constructor(
    @Inject(CONFIG) config: Config,
    private readonly databases: Databases,
    imports: ImportJob,
    preparations: PrepareJob,
    packs: PackJob,
    sheets: SheetsJob,
    trials: TrialJob,
    checks: CheckJob,
    remarks: RemarkJob,
  ) {
    this.boss = new PgBoss({
      connectionString: databaseUrl(config, 'worker'),
      migrate: false,
      schedule: false,
      maintenanceIntervalSeconds: MAINTENANCE_SECONDS,
      max: 4,
    });
    this.boss.on('error', (error) => this.log.warn(`the queue: ${error.message}`));
    this.handlers = {
      check: checks,
      model: checks,
      pack: packs,
      sheets,
      prepare: preparations,
      import: imports,
      trial: trials,
      remark: remarks,
    };
  }

  async start(): Promise<void> {
    await this.boss.start();
    for (const kind of JOB_KINDS) void this.loop(kind);
    this.every(POLL * 2, () => this.stopCancelled());
    this.every(MAINTENANCE_SECONDS * 1000, () => this.tellOrphans());
    this.every(UPKEEP, async () => {
      const db = await this.databases.of('worker');
      await deleteIdleFiles(db);
      await forgetTurns(db);
    });
  }

  /** Takes up jobs of a kind whenever there is room for one; looks again at once after each that ends. */
  private async loop(kind: JobKind): Promise<void> {
    let ofKind: Promise<void>[] = [];
    while (!this.stopping) {
      const job = ofKind.length < JOBS[kind].atOnce ? await this.nextOf(kind) : null;
      if (job) {
        const { id, data, retryCount, retryLimit } = job;
        const done = this.take({ kind, id, payload: data, lastTry: retryCount >= retryLimit });
        ofKind.push(done);
        void done.finally(() => (ofKind = ofKind.filter((other) => other !== done)));
      } else await Promise.race([...ofKind, wait(POLL)]);
    }
  }

  private async nextOf<K extends JobKind>(kind: K): Promise<TakenJob<K> | null> {
    try {
      return await takeNextJob(await this.databases.of('worker'), kind);
    } catch (error) {
      this.log.warn(`the queue: ${String(error)}`);
      return null;
    }
  }

  private take<K extends JobKind>(job: Running<K>): Promise<void> {
    const stop = new AbortController();
    const done = this.run(job, stop.signal)
      .catch((error: unknown) => {
        // The database is away, most likely. The job expires and is taken up again.
        this.log.warn(`${job.kind} ${job.id} is left: ${String(error)}`);
      })
      .finally(() => this.running.delete(job.id));
    this.running.set(job.id, { stop, done });
    return done;
  }

  private async run<K extends JobKind>(job: Running<K>, stop: AbortSignal): Promise<void> {
    const { kind, id, payload } = job;
    const signal = AbortSignal.any([stop, AbortSignal.timeout(JOBS[kind].seconds * 1000)]);
    const handler = this.handlers[kind];
    const end = jobSeconds.startTimer({ kind });
    try {
      await handler.run(payload, { signal, progress: this.progressOf(job) });
      await this.boss.complete(kind, id);
      end({ ended: 'done' });
    } catch (error) {
      end({ ended: stop.aborted ? 'stopped' : 'failed' });
      if (stop.aborted) {
        if (this.stopping) await this.handOver(id);
        return;
      }
      this.log.error(
        `${kind} ${id}: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`,
      );
      if (job.lastTry) await this.abandon(kind, payload);
      // What went wrong stays in this process's log: the queue is read by more people than may know.
      await this.boss.fail(kind, id, { message: job.lastTry ? 'it failed for the last time' : 'it failed' });
    } finally {
      const db = await this.databases.of('worker');
      await db.query('DELETE FROM job_progress WHERE job_id = $1', [id]);
    }
  }

  /** Gives a job back untried, for another worker to take up at once. */
  private async handOver(id: string): Promise<void> {
    const db = await this.databases.of('worker');
    await db.query(
      `UPDATE pgboss.job SET state = 'retry', start_after = now() WHERE id = $1 AND state = 'active'`,
      [id],
    );
  }

  private progressOf({ id, payload }: Running<JobKind>): JobContext['progress'] {
    return async (what, done, total) => {
      const db = await this.databases.of('worker');
      await db.query(
        `INSERT INTO job_progress (job_id, what, done, total) VALUES ($1, $2, $3, $4)
           ON CONFLICT (job_id) DO UPDATE SET what = $2, done = $3, total = $4, at = now()`,
        [id, what, done, total],
      );
      await announce(db, { courseId: payload.courseId, to: 'staff' });
    };
  }

  private async abandon<K extends JobKind>(kind: K, payload: JobPayloads[K]): Promise<void> {
    const db = await this.databases.of('worker');
    jobsGivenUp.inc({ kind });
    const words = { code: 'gave-up', message: JOBS[kind].lastWord };
    await db.transaction((manager) => ABANDON[kind](manager, payload, words));
  }

  /** Ends what was cancelled while it ran here. */
  private async stopCancelled(): Promise<void> {
    if (this.running.size === 0) return;
    const db = await this.databases.of('worker');
    const cancelled: { id: string }[] = await db.query(
      `SELECT id FROM pgboss.job WHERE id = ANY ($1) AND state = 'cancelled'`,
      [[...this.running.keys()]],
    );
    for (const { id } of cancelled) this.running.get(id)?.stop.abort();
  }

  /** A worker that was killed on a job's last try told nobody: students who still wait are told here. */
  private async tellOrphans(): Promise<void> {
    const db = await this.databases.of('worker');
    const tell = async <K extends JobKind>(kind: K): Promise<JobPayloads[K][]> => {
      const orphans: JobPayloads[K][] = await this.handlers[kind].orphans(db);
      for (const payload of orphans) await this.abandon(kind, payload);
      return orphans;
    };
    for (const kind of JOB_KINDS) {
      const told = await tell(kind);
      if (told.length > 0) this.log.warn(`${told.length} × ${kind} had no job any more; who waited was told`);
    }
  }

  private every(milliseconds: number, work: () => Promise<void>): void {
    let busy = false;
    const tick = () => {
      if (busy) return;
      busy = true;
      work()
        .catch((error: unknown) => this.log.warn(String(error)))
        .finally(() => (busy = false));
    };
    this.timers.push(setInterval(tick, milliseconds));
  }

  /** Takes nothing more, lets what runs go on for a while, and leaves the rest to other workers. */
  async onApplicationShutdown(): Promise<void> {
    this.stopping = true;
    for (const timer of this.timers) clearInterval(timer);
    await Promise.race([Promise.all([...this.running.values()].map(({ done }) => done)), wait(GRACE)]);
    const left = [...this.running.values()];
    for (const { stop } of left) stop.abort();
    await Promise.race([Promise.all(left.map(({ done }) => done)), wait(GRACE)]);
    await this.boss.stop({ graceful: false, wait: true });
  }
}

const wait = (milliseconds: number) =>
  new Promise<void>((resolve) => {
    setTimeout(resolve, milliseconds);
  });
