import type { EntityManager } from 'typeorm';
import type { JobKind, JobPayloads } from './queues.js';

/** What a running job is given: when to stop, and where to say how far it is. */
export interface JobContext {
  /** Aborted when the job is cancelled, when its time is over and when the worker stops. */
  readonly signal: AbortSignal;
  readonly progress: (what: string, done: number, total: number) => Promise<void>;
}

/** How a kind of job is run, and what becomes of its subject when it will not be run again. */
export interface JobHandler<P> {
  /** Running twice leaves what running once leaves. */
  run(payload: P, context: JobContext): Promise<void>;
  /** Subjects that wait for a job of this kind although there is none any more. */
  orphans(manager: EntityManager): Promise<P[]>;
}

export type JobHandlers = { readonly [K in JobKind]: JobHandler<JobPayloads[K]> };
