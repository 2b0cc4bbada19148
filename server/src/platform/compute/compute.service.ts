import { SieveError } from '@modest-sieve/core/foundation';
import { Inject, Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { Piscina } from 'piscina';
import type { Caller } from '../access/access.js';
import { CONFIG } from '../config/config.module.js';
import type { Config } from '../config/config.js';
import { Problem } from '../errors/problem.js';
import { buffersIn } from './buffers.js';
import { TASK_WORKER, type Lane, type Task, type TaskAnswer } from './task.js';

const MEGABYTES = 2048;
/** Milliseconds after which a thread that has nothing to do ends; one of slow tasks sooner, for it holds most memory. */
const IDLE = { quick: 60_000, slow: 5_000 };

/** Milliseconds for which work goes on for a caller who has gone: to end a thread costs more than a short task. */
const GRACE = 2000;

/** How long somebody is worked for. */
interface Patience {
  readonly seconds: number;
  /** Aborted when the caller has gone. */
  readonly gone: AbortSignal;
}

/** Up to so many seconds, and not for a caller who has gone. */
export const within = (caller: Pick<Caller, 'gone'>, seconds: number): Patience => ({
  seconds,
  gone: caller.gone,
});

function signalOf(limit: number | AbortSignal | Patience): AbortSignal {
  if (limit instanceof AbortSignal) return limit;
  if (typeof limit === 'number') return AbortSignal.timeout(limit * 1000);
  const abandoned = new AbortController();
  const abandon = () => setTimeout(() => abandoned.abort(), GRACE).unref();
  if (limit.gone.aborted) abandon();
  else limit.gone.addEventListener('abort', abandon, { once: true });
  return AbortSignal.any([AbortSignal.timeout(limit.seconds * 1000), abandoned.signal]);
}

const poolOf = (filename: string, threads: number, idleTimeout: number) =>
  new Piscina({
    filename,
    minThreads: 0,
    maxThreads: threads,
    idleTimeout,
    resourceLimits: { maxOldGenerationSizeMb: MEGABYTES },
  });

/** Runs the core in worker threads, so that the event loop stays free. */
@Injectable()
export class Compute implements OnApplicationShutdown {
  /** Apart, so that a long import keeps neither a check nor a release waiting. */
  private readonly pools: Readonly<Record<Lane, Piscina>>;

  constructor(@Inject(CONFIG) config: Config, @Inject(TASK_WORKER) worker: string) {
    this.pools = {
      quick: poolOf(worker, Math.max(1, config.threads), IDLE.quick),
      tables: poolOf(worker, 1, IDLE.slow),
      packs: poolOf(worker, 1, IDLE.slow),
      trials: poolOf(worker, 1, IDLE.slow),
    };
  }

  /**
   * @param limit seconds after which the thread is ended, or the signal that ends it; with a caller, it is ended some
   * time after the caller has gone, too
   * @param input stored columns and files in it are handed over: the caller no longer has them
   * @throws SieveError as the task throws it, Problem `too-long`
   */
  async run<I, O>(
    { name, lane }: Task<I, O>,
    input: NoInfer<I>,
    limit: number | AbortSignal | Patience,
  ): Promise<O> {
    const pool = this.pools[lane];
    const transferList = buffersIn(input);
    const running = pool.run({ name, input }, { signal: signalOf(limit), transferList });
    const answer = (await running.catch((error: unknown) => {
      if (limit instanceof AbortSignal || !(error instanceof Error && error.name === 'AbortError'))
        throw error;
      const seconds = typeof limit === 'number' ? limit : limit.seconds;
      throw new Problem(503, 'too-long', `This took longer than ${seconds} seconds and was stopped.`);
    })) as TaskAnswer<O>;
    if ('error' in answer) throw new SieveError(answer.error.code, answer.error.message, answer.error.place);
    return answer.output;
  }

  async onApplicationShutdown(): Promise<void> {
    await Promise.all(Object.values(this.pools).map((pool) => pool.destroy()));
  }
}
