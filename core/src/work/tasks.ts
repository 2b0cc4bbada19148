import { SieveError, type Place } from '../errors.js';
import { readPiece } from '../formats/csv/columns.js';
import { readWhole } from '../formats/format.js';
import { profileColumn } from '../profile/profile.js';

/** What a crew can run. Inputs and outputs are plain data that can be sent between threads. */
const TASKS = { readPiece, readWhole, profileColumn };

export type TaskName = keyof typeof TASKS;
export type TaskInput<N extends TaskName> = Parameters<(typeof TASKS)[N]>[0];
export type TaskOutput<N extends TaskName> = Awaited<ReturnType<(typeof TASKS)[N]>>;

export interface TaskRequest {
  readonly name: TaskName;
  readonly input: TaskInput<TaskName>;
}

export type TaskAnswer<N extends TaskName = TaskName> =
  | { readonly output: TaskOutput<N> }
  | { readonly error: { readonly code: string; readonly message: string; readonly place: Place } };

/** Each task with its own input and output, so that a name and an input that belong together can be called. */
const tasks: { readonly [N in TaskName]: (input: TaskInput<N>) => TaskOutput<N> | Promise<TaskOutput<N>> } =
  TASKS;

/** Runs a task in the thread that calls; the thread's entry sends what it returns back. */
export async function answerTask<N extends TaskName>(name: N, input: TaskInput<N>): Promise<TaskAnswer<N>> {
  try {
    return { output: await tasks[name](input) };
  } catch (error) {
    if (!(error instanceof SieveError)) throw error;
    return { error: { code: error.code, message: error.message, place: error.place } };
  }
}
