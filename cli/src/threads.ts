import { SieveError, type Crew, type ThreadTask } from '@modest-sieve/core/foundation';
import type { TaskAnswer, TaskRequest } from '@modest-sieve/core/tasks';
import { Worker } from 'node:worker_threads';

/** Texts of a piece die young: with room for all of them they are not copied about first. */
const YOUNG_MEGABYTES = 128;
/** Memory and seconds that a thread may take over one task: a damaged file may ask for any amount of either. */
const MEGABYTES = 2048;
const SECONDS = 300;

interface Waiting {
  readonly request: TaskRequest;
  readonly resolve: (answer: TaskAnswer) => void;
  readonly reject: (error: unknown) => void;
}

/**
 * Worker threads that run tasks of the core, each one at a time; they are started when first needed, or before.
 * Bytes are sent as copies of what is needed of them, results are moved.
 */
export class Threads implements Crew {
  private readonly idle: Worker[] = [];
  private readonly all = new Set<Worker>();
  private readonly queue: Waiting[] = [];

  constructor(
    readonly size: number,
    private readonly seconds = SECONDS,
  ) {}

  /** Starts all of them, so that they are ready when their first task is. */
  warm(): void {
    while (this.all.size < this.size) {
      const worker = this.start();
      worker.unref();
      this.idle.push(worker);
    }
  }

  async run<Input, Output>(task: ThreadTask<Input, Output>, input: Input): Promise<Output> {
    const answer = await new Promise<TaskAnswer>((resolve, reject) => {
      this.queue.push({ request: { name: task.name, input }, resolve, reject });
      this.next();
    });
    if ('error' in answer) throw new SieveError(answer.error.code, answer.error.message, answer.error.place);
    return answer.output as Output;
  }

  private next(): void {
    const worker = this.idle.pop() ?? (this.all.size < this.size ? this.start() : undefined);
    if (!worker) return;
    const waiting = this.queue.shift();
    if (!waiting) {
      this.idle.push(worker);
      return;
    }
    const listen = (on: 'on' | 'off') => {
      worker[on]('message', answered);
      worker[on]('error', failed);
    };
    const late = setTimeout(() => {
      failed(tooMuch(`${this.seconds} s`));
      void worker.terminate();
    }, this.seconds * 1000);
    // Stopping all threads does not wait for it.
    late.unref();
    const answered = (answer: TaskAnswer) => {
      listen('off');
      clearTimeout(late);
      worker.unref();
      this.idle.push(worker);
      waiting.resolve(answer);
      this.next();
    };
    const failed = (error: unknown) => {
      listen('off');
      clearTimeout(late);
      this.all.delete(worker);
      const isMemory = error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY';
      waiting.reject(isMemory ? tooMuch(`${MEGABYTES} MB of memory`) : error);
      this.next();
    };
    listen('on');
    worker.ref();
    worker.postMessage(waiting.request);
  }

  private start(): Worker {
    const worker = new Worker(new URL('./thread.worker.js', import.meta.url), {
      resourceLimits: { maxYoungGenerationSizeMb: YOUNG_MEGABYTES, maxOldGenerationSizeMb: MEGABYTES },
    });
    this.all.add(worker);
    return worker;
  }

  async stop(): Promise<void> {
    await Promise.all([...this.all].map((worker) => worker.terminate()));
  }
}

const tooMuch = (what: string) =>
  new SieveError('too-much', `Stopped after ${what}: the file is too large, or damaged.`);
