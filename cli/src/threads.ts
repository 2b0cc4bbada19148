import {
  SieveError,
  type Crew,
  type Helpers,
  type PieceTask,
  type ThreadTask,
} from '@modest-sieve/core/foundation';
import type { TaskAnswer, TaskRequest } from '@modest-sieve/core/tasks';
import { MessageChannel, receiveMessageOnPort, Worker, type MessagePort } from 'node:worker_threads';
import type { Asked } from './thread.worker.js';

/** Texts of a piece die young: with room for all of them they are not copied about first. */
const YOUNG_MEGABYTES = 128;
/** Memory and seconds that a thread may take over one task: a damaged file may ask for any amount of either. */
const MEGABYTES = 2048;
const SECONDS = 300;

/** So many times as long as its own piece a caller waits for the others, and at least so many seconds. */
const TIMES_OWN = 20;
const LEAST_SECONDS = 10;

interface Waiting {
  readonly request: TaskRequest;
  readonly resolve: (answer: TaskAnswer) => void;
  readonly reject: (error: unknown) => void;
}

/**
 * Worker threads that run tasks of the core, each one at a time; they are started when first needed, or before.
 * Bytes are sent as copies of what is needed of them, results are moved.
 */
export class Threads implements Crew, Helpers {
  private readonly idle: Worker[] = [];
  private readonly all = new Set<Worker>();
  private readonly queue: Waiting[] = [];

  constructor(
    readonly size: number,
    private readonly seconds = SECONDS,
    private readonly leastSeconds = LEAST_SECONDS,
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
    return outputOf(answer) as Output;
  }

  /**
   * Does the first piece itself and waits for the threads that do the others. A thread that dies meanwhile cannot say so to
   * one that waits: its piece is done here after a while.
   */
  runTogether<Input, Output>(task: PieceTask<Input, Output>, inputs: readonly Input[]): Output[] {
    const [own, ...others] = inputs;
    if (own === undefined) return [];
    const sent = others.map((input) => this.send({ name: task.name, input }));
    try {
      const begun = performance.now();
      const first = task.run(own);
      const wait = Math.max(this.leastSeconds * 1000, TIMES_OWN * (performance.now() - begun));
      return [
        first,
        ...sent.map(({ port, done }, place) => {
          Atomics.wait(done, 0, 0, wait);
          const received = receiveMessageOnPort(port);
          return received
            ? (outputOf(received.message as TaskAnswer) as Output)
            : task.run(others[place] as Input);
        }),
      ];
    } finally {
      for (const { port, worker } of sent) {
        port.close();
        this.idle.push(worker);
      }
    }
  }

  /** Sends a request to a thread, whose answer comes to a port of its own. */
  private send(request: TaskRequest): { port: MessagePort; done: Int32Array; worker: Worker } {
    const worker = this.idle.pop() ?? this.start();
    worker.unref();
    const { port1: port, port2 } = new MessageChannel();
    const done = new Int32Array(new SharedArrayBuffer(Int32Array.BYTES_PER_ELEMENT));
    const asked: Asked = { request, reply: { port: port2, done } };
    worker.postMessage(asked, [port2]);
    return { port, done, worker };
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
      this.forget(worker);
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
      const isMemory = error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY';
      waiting.reject(isMemory ? tooMuch(`${MEGABYTES} MB of memory`) : error);
      this.next();
    };
    listen('on');
    worker.ref();
    const asked: Asked = { request: waiting.request };
    worker.postMessage(asked);
  }

  private start(): Worker {
    const worker = new Worker(new URL('./thread.worker.js', import.meta.url), {
      resourceLimits: { maxYoungGenerationSizeMb: YOUNG_MEGABYTES, maxOldGenerationSizeMb: MEGABYTES },
    });
    this.all.add(worker);
    worker.on('error', () => this.forget(worker));
    return worker;
  }

  /** A thread that has ended is not asked again. */
  private forget(worker: Worker): void {
    this.all.delete(worker);
    const place = this.idle.indexOf(worker);
    if (place >= 0) this.idle.splice(place, 1);
  }

  async stop(): Promise<void> {
    await Promise.all([...this.all].map((worker) => worker.terminate()));
  }
}

function outputOf(answer: TaskAnswer): unknown {
  if ('error' in answer) throw new SieveError(answer.error.code, answer.error.message, answer.error.place);
  return answer.output;
}

const tooMuch = (what: string) =>
  new SieveError('too-much', `Stopped after ${what}: the file is too large, or damaged.`);
