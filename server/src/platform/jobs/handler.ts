import type { JobKind, JobPayload } from './job-kind.js';

/** What a running job is given: when to stop, and where to say how far it is. */
export interface JobContext {
  /** Aborted when the job is cancelled, when its time is over and when the worker stops. */
  readonly signal: AbortSignal;
  readonly progress: (what: string, done: number, total: number) => Promise<void>;
}

/** Runs the jobs of some kinds. */
export interface JobHandler<P extends JobPayload = JobPayload> {
  readonly kinds: readonly JobKind<P>[];
  /** Running twice leaves what running once leaves. */
  run(payload: P, context: JobContext): Promise<void>;
}

/** The handlers of a worker process, injected. */
export const JOB_HANDLERS = Symbol('handlers of jobs');
