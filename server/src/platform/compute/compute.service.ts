import { SieveError } from '@modest-sieve/core';
import { Inject, Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { Piscina } from 'piscina';
import { CONFIG } from '../config/config.module.js';
import type { Config } from '../config/config.js';
import type { TaskAnswer, TaskInput, TaskName, TaskOutput } from './tasks.js';

const IS_TYPESCRIPT = import.meta.url.endsWith('.ts');
const WORKER = new URL(`./task.worker.${IS_TYPESCRIPT ? 'ts' : 'js'}`, import.meta.url).href;
const MEGABYTES = 2048;
/** Milliseconds after which a thread that has nothing to do ends. */
const IDLE = 60_000;

/** Tasks that may take minutes. */
const SLOW: ReadonlySet<TaskName> = new Set<TaskName>(['importTable', 'exportTable', 'prepare', 'pack']);

const poolOf = (threads: number) =>
  new Piscina({
    filename: WORKER,
    minThreads: 0,
    maxThreads: threads,
    idleTimeout: IDLE,
    resourceLimits: { maxOldGenerationSizeMb: MEGABYTES },
    execArgv: IS_TYPESCRIPT ? ['--conditions=sieve-sources', '--import', 'tsx'] : [],
  });

/** Runs the core in worker threads, so that the event loop stays free. */
@Injectable()
export class Compute implements OnApplicationShutdown {
  /** Apart, so that a long import never keeps a check waiting. */
  private readonly pools: { readonly quick: Piscina; readonly slow: Piscina };

  constructor(@Inject(CONFIG) config: Config) {
    this.pools = { quick: poolOf(Math.max(1, config.threads)), slow: poolOf(1) };
  }

  /**
   * @param limit seconds after which the thread is ended, or the signal that ends it
   * @throws SieveError as the task throws it
   */
  async run<N extends TaskName>(
    name: N,
    input: TaskInput<N>,
    limit: number | AbortSignal,
  ): Promise<TaskOutput<N>> {
    const signal = typeof limit === 'number' ? AbortSignal.timeout(limit * 1000) : limit;
    const answer = (await this.pools[SLOW.has(name) ? 'slow' : 'quick'].run(
      { name, input },
      { signal },
    )) as TaskAnswer<N>;
    if ('error' in answer) throw new SieveError(answer.error.code, answer.error.message, answer.error.place);
    return answer.output;
  }

  async onApplicationShutdown(): Promise<void> {
    await Promise.all([this.pools.quick.destroy(), this.pools.slow.destroy()]);
  }
}
