import { SieveError } from '@modest-sieve/core';
import { Inject, Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { Piscina } from 'piscina';
import { CONFIG } from '../config/config.module.js';
import type { Config } from '../config/config.js';
import type { TaskAnswer, TaskInput, TaskName, TaskOutput } from './tasks.js';

const IS_TYPESCRIPT = import.meta.url.endsWith('.ts');
const WORKER = new URL(`./task.worker.${IS_TYPESCRIPT ? 'ts' : 'js'}`, import.meta.url).href;
const MEGABYTES = 2048;

/** Runs the core in worker threads, so that the event loop stays free. */
@Injectable()
export class Compute implements OnApplicationShutdown {
  private readonly pool: Piscina;

  constructor(@Inject(CONFIG) config: Config) {
    this.pool = new Piscina({
      filename: WORKER,
      minThreads: 1,
      maxThreads: Math.max(1, config.threads),
      resourceLimits: { maxOldGenerationSizeMb: MEGABYTES },
      execArgv: IS_TYPESCRIPT ? ['--conditions=sieve-sources', '--import', 'tsx'] : [],
    });
  }

  /**
   * @param seconds after which the thread is ended
   * @throws SieveError as the task throws it
   */
  async run<N extends TaskName>(name: N, input: TaskInput<N>, seconds: number): Promise<TaskOutput<N>> {
    const signal = AbortSignal.timeout(seconds * 1000);
    const answer = (await this.pool.run({ name, input }, { signal })) as TaskAnswer<N>;
    if ('error' in answer) throw new SieveError(answer.error.code, answer.error.message, answer.error.place);
    return answer.output;
  }

  async onApplicationShutdown(): Promise<void> {
    await this.pool.destroy();
  }
}
