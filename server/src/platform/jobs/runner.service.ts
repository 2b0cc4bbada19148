import { SieveError } from '@modest-sieve/core/foundation';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import PgBoss from 'pg-boss';
import type { EntityManager } from 'typeorm';
import { CONFIG } from '../config/config.module.js';
import { databaseUrl, type Config } from '../config/config.js';
import { KEPT_ALIVE } from '../config/line.js';
import { Databases } from '../database/databases.js';
import { Listener } from '../database/listener.js';
import { announce } from '../events/announce.js';
import { UPKEEP, type Upkeep } from './upkeep.js';
import { jobsGivenUp, jobSeconds } from '../metrics/metrics.js';
import { JOB_HANDLERS, type JobContext, type JobHandler } from './handler.js';
import type { GivenUp, JobKind, JobPayload, JobProblem } from './job-kind.js';
import { JOBS_CHANNEL, within } from './jobs.service.js';
import { orphansOf } from './orphans.js';
import { forgetTurns, takeNextJob, type TakenJob } from './turns.js';

/** Milliseconds after which the queue is looked at without having heard of a job: one may wait for another's end, or for its next try. */
const POLL = 500;
const MAINTENANCE_SECONDS = 5;
/** Milliseconds after which what nobody needs is deleted again. */
const UPKEEP_EVERY = 10 * 60_000;
/** How long a worker that is asked to stop lets its jobs go on. */
const GRACE = 10_000;

interface Running {
  readonly handler: JobHandler;
  readonly kind: JobKind;
  readonly id: string;
  readonly payload: JobPayload;
  readonly lastTry: boolean;
}

/** Takes jobs from the queues of the database and runs them; what a killed worker left is taken up by another. */
@Injectable()
export class Runner implements OnApplicationShutdown {
  private readonly log = new Logger('Runner');
  private readonly boss: PgBoss;
  private readonly running = new Map<string, { stop: AbortController; done: Promise<void> }>();
  private readonly timers: NodeJS.Timeout[] = [];
  private stopping = false;
  /** By kind, what ends the wait for a job of it. */
  private readonly waiting = new Map<string, () => void>();
  private listener: Listener | null = null;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly databases: Databases,
    @Inject(JOB_HANDLERS) private readonly handlers: readonly JobHandler[],
    @Inject(UPKEEP) private readonly upkeep: readonly Upkeep[],
  ) {
    this.boss = new PgBoss({
      connectionString: databaseUrl(config, 'worker'),
      ...KEPT_ALIVE,
      migrate: false,
      schedule: false,
      maintenanceIntervalSeconds: MAINTENANCE_SECONDS,
      max: 4,
    });
    this.boss.on('error', (error) => this.log.warn(`the queue: ${error.message}`));
  }

  async start(): Promise<void> {
    await this.boss.start();
    this.listener = new Listener({
      url: databaseUrl(this.config, 'worker'),
      channel: JOBS_CHANNEL,
      log: this.log,
      hear: (kind) => this.waiting.get(kind)?.(),
    });
    for (const handler of this.handlers) for (const kind of handler.kinds) void this.loop(handler, kind);
    this.every(POLL * 2, () => this.stopCancelled());
    this.every(MAINTENANCE_SECONDS * 1000, () => this.giveUpOrphans());
    this.every(UPKEEP_EVERY, async () => {
      const db = await this.databases.of('worker');
      await forgetTurns(db);
      for (const work of this.upkeep) await work(db);
    });
  }

  /** Takes up jobs of a kind whenever there is room for one; looks again at once after each that ends. */
  private async loop(handler: JobHandler, kind: JobKind): Promise<void> {
    let ofKind: Promise<void>[] = [];
    while (!this.stopping) {
      // Heard from before the queue is looked at, so that no job falls between.
      const heard = new Promise<void>((resolve) => this.waiting.set(kind.name, resolve));
      const job = ofKind.length < kind.atOnce ? await this.nextOf(kind) : null;
      if (job) {
        const { id, data, retryCount, retryLimit } = job;
        const done = this.take({ handler, kind, id, payload: data, lastTry: retryCount >= retryLimit });
        ofKind.push(done);
        void done.finally(() => (ofKind = ofKind.filter((other) => other !== done)));
      } else await Promise.race([...ofKind, heard, wait(POLL)]);
    }
  }

  private async nextOf(kind: JobKind): Promise<TakenJob<JobPayload> | null> {
    try {
      return await takeNextJob(await this.databases.of('worker'), kind);
    } catch (error) {
      this.log.warn(`the queue: ${String(error)}`);
      return null;
    }
  }

  private take(job: Running): Promise<void> {
    const stop = new AbortController();
    const done = this.run(job, stop.signal)
      .catch((error: unknown) => {
        // The database is away, most likely. The job expires and is taken up again.
        this.log.warn(`${job.kind.name} ${job.id} is left: ${String(error)}`);
      })
      .finally(() => this.running.delete(job.id));
    this.running.set(job.id, { stop, done });
    return done;
  }

  private async run(job: Running, stop: AbortSignal): Promise<void> {
    const { handler, kind, id, payload } = job;
    const { name, seconds } = kind;
    const signal = AbortSignal.any([stop, AbortSignal.timeout(seconds * 1000)]);
    const end = jobSeconds.startTimer({ kind: name });
    try {
      await this.runOrRefuse(handler, kind, payload, { signal, progress: this.progressOf(job) });
      await this.boss.complete(name, id);
      end({ ended: 'done' });
    } catch (error) {
      end({ ended: stop.aborted ? 'stopped' : 'failed' });
      if (stop.aborted) {
        if (this.stopping) await this.handOver(name, id);
        return;
      }
      this.log.error(
        `${name} ${id}: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`,
      );
      if (job.lastTry) await this.abandon(kind, payload);
      // What went wrong stays in this process's log: the queue is read by more people than may know.
      await this.boss.fail(name, id, { message: job.lastTry ? 'it failed for the last time' : 'it failed' });
    } finally {
      const db = await this.databases.of('worker');
      await db.query('DELETE FROM job_progress WHERE job_id = $1', [id]);
    }
  }

  /** Material that makes the job impossible ends it: who asked reads why, and it is not tried again. */
  private async runOrRefuse(
    handler: JobHandler,
    kind: JobKind,
    payload: JobPayload,
    context: JobContext,
  ): Promise<void> {
    try {
      await handler.run(payload, context);
    } catch (error) {
      if (!kind.saysWhy || !(error instanceof SieveError)) throw error;
      const { code, message, place } = error;
      const choices = place.choices ? { choices: place.choices } : {};
      await this.giveUp(kind, payload, { code, message, ...choices }, 'refused');
    }
  }

  /** Gives a job back untried, for another worker to take up at once. */
  private async handOver(name: string, id: string): Promise<void> {
    const db = await this.databases.of('worker');
    await db.transaction(async (manager) => {
      const queue = { db: within(manager) };
      await this.boss.cancel(name, id, queue);
      await this.boss.resume(name, id, queue);
    });
  }

  private progressOf({ id, payload }: Running): JobContext['progress'] {
    return async (what, done, total) => {
      const db = await this.databases.of('worker');
      await db.query(
        `INSERT INTO job_progress (job_id, what, done, total) VALUES ($1, $2, $3, $4)
           ON CONFLICT (job_id) DO UPDATE SET what = $2, done = $3, total = $4, at = now()`,
        [id, what, done, total],
      );
      await announce(db, { courseId: payload.courseId, to: 'staff', about: 'jobs' });
    };
  }

  private async abandon(kind: JobKind, payload: JobPayload): Promise<void> {
    jobsGivenUp.inc({ kind: kind.name });
    await this.giveUp(kind, payload, { code: 'gave-up', message: kind.lastWord }, 'failed');
  }

  private async giveUp(kind: JobKind, payload: JobPayload, problem: JobProblem, how: GivenUp): Promise<void> {
    const db = await this.databases.of('worker');
    await db.transaction((manager: EntityManager) => kind.giveUp(manager, payload, problem, how));
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

  /** A worker that was killed on a job's last try reported nothing: what still waits for it is given up here. */
  private async giveUpOrphans(): Promise<void> {
    const db = await this.databases.of('worker');
    for (const { kinds } of this.handlers) {
      const [kind] = kinds;
      const orphans = kind ? await orphansOf(db, kinds) : [];
      if (!kind || orphans.length === 0) continue;
      for (const payload of orphans) await this.abandon(kind, payload);
      this.log.warn(`${orphans.length} × ${kind.name} had no job any more and were given up`);
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
    await this.listener?.close();
    await Promise.race([Promise.all([...this.running.values()].map(({ done }) => done)), wait(GRACE)]);
    const left = [...this.running.values()];
    for (const { stop } of left) stop.abort();
    await Promise.race([Promise.all(left.map(({ done }) => done)), wait(GRACE)]);
    await this.boss.stop({ graceful: false, wait: true });
  }
}

const wait = (milliseconds: number) =>
  new Promise<void>((resolve) => {
    // Nothing but a wait keeps no process alive.
    setTimeout(resolve, milliseconds).unref();
  });
