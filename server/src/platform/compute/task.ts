/** Threads that tasks run in: those of quick ones, and one each for what may take minutes. */
export type Lane = 'quick' | 'tables' | 'packs' | 'trials';

/** A computation that runs in a worker thread. What it takes and gives is plain data. */
export interface Task<I, O> {
  readonly name: string;
  readonly lane: Lane;
  readonly run: (input: I) => O | Promise<O>;
}

type Works = Readonly<Record<string, (input: never) => unknown>>;

/** The tasks that some functions are, by the functions' names. */
export type TasksOf<W extends Works> = {
  readonly [N in keyof W]: Task<Parameters<W[N]>[0], Awaited<ReturnType<W[N]>>>;
};

/**
 * Functions as tasks of a lane. Each feature declares its own; the names of all features are one set.
 *
 * @param lane a lane of its own for what may take minutes, so that none waits for another
 */
export const tasks = <W extends Works>(lane: Lane, works: W): TasksOf<W> =>
  Object.fromEntries(
    Object.entries(works).map(([name, run]) => [name, { name, lane, run }]),
  ) as unknown as TasksOf<W>;

/** What a thread answers: the output, or an error of the reader's material, which must not lose its code on the way. */
export type TaskAnswer<O> =
  | { readonly output: O }
  | { readonly error: { readonly code: string; readonly message: string; readonly place: object } };

/** Address of the module that runs tasks in a thread, injected. */
export const TASK_WORKER = Symbol('worker of tasks');
