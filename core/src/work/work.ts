import type { TaskInput, TaskName, TaskOutput } from './tasks.js';

/** Threads that run tasks of the core beside the caller: worker threads in Node, web workers in a browser. */
export interface Crew {
  /** How many tasks run at once. */
  readonly size: number;
  /** @throws SieveError as the task throws it */
  run<N extends TaskName>(name: N, input: TaskInput<N>): Promise<TaskOutput<N>>;
}

/** How long work is to be done: all of it may be left out. */
export interface Work {
  readonly signal?: AbortSignal;
  /** Called now and then with what is being done and the share of it that is, from 0 to 1. */
  readonly progress?: (share: number, what: string) => void;
  readonly crew?: Crew;
}

/**
 * Runs tasks, at most `crew.size` and a spare at once, and gives their outputs in the order of the inputs.
 * Inputs are drawn only when there is room, so that they need not all be in memory.
 *
 * @throws the signal's reason once it is aborted; SieveError of the first task in order that failed
 */
export async function runAll<N extends TaskName>(
  name: N,
  inputs: Iterable<{ readonly input: TaskInput<N>; readonly share: number }>,
  crew: Crew,
  work: Work,
  what: string,
): Promise<TaskOutput<N>[]> {
  const running: Promise<TaskOutput<N>>[] = [];
  const outputs: TaskOutput<N>[] = [];
  for (const { input, share } of inputs) {
    const task = crew.run(name, input);
    // It is awaited in its turn; until then a failure is no unhandled rejection.
    task.catch(() => undefined);
    running.push(task);
    if (running.length > crew.size) outputs.push(await take(running));
    work.signal?.throwIfAborted();
    work.progress?.(share, what);
  }
  while (running.length > 0) outputs.push(await take(running));
  return outputs;
}

async function take<T>(running: Promise<T>[]): Promise<T> {
  const first = running.shift();
  if (!first) throw new RangeError('nothing is running');
  return first;
}
