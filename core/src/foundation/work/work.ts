/** Something that can be done in any thread: its input and output are plain data, and its name says it on both sides. */
export interface ThreadTask<Input, Output> {
  readonly name: string;
  readonly run: (input: Input) => Output | Promise<Output>;
}

/** A task that is done when it returns. */
export interface PieceTask<Input, Output> extends ThreadTask<Input, Output> {
  readonly run: (input: Input) => Output;
}

/** Threads that do pieces of one piece of work while the caller waits for all of them; only where a caller may wait. */
export interface Helpers {
  /** Pieces that are done at the same time, that of the caller included. */
  readonly size: number;
  /**
   * @returns the outputs in the order of the inputs
   * @throws SieveError of the first piece in order that failed
   */
  runTogether<Input, Output>(task: PieceTask<Input, Output>, inputs: readonly Input[]): Output[];
}

/** Threads that run tasks of the core beside the caller: worker threads in Node, web workers in a browser. */
export interface Crew {
  /** How many tasks run at once. */
  readonly size: number;
  /** @throws SieveError as the task throws it */
  run<Input, Output>(task: ThreadTask<Input, Output>, input: Input): Promise<Output>;
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
export async function runAll<Input, Output>(
  task: ThreadTask<Input, Output>,
  inputs: Iterable<{ readonly input: Input; readonly share: number }>,
  crew: Crew,
  work: Work,
  what: string,
): Promise<Output[]> {
  const running: Promise<Output>[] = [];
  const outputs: Output[] = [];
  for (const { input, share } of inputs) {
    const output = crew.run(task, input);
    // It is awaited in its turn; until then a failure is no unhandled rejection.
    output.catch(() => undefined);
    running.push(output);
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
