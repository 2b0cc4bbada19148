import { readPieceTask } from './data/formats/csv/columns.js';
import { readWholeTask } from './data/formats/format.js';
import { profileColumnTask } from './data/profile/profile.js';
import { SieveError, type Place } from './foundation/errors.js';
import type { ThreadTask } from './foundation/work/work.js';
import { growTreesTask } from './models/forest/trees.js';

/** What a thread can run. */
const TASKS: readonly ThreadTask<never, unknown>[] = [
  readPieceTask,
  readWholeTask,
  profileColumnTask,
  growTreesTask,
];

/** What is sent to a thread: the name of a task and its input. */
export interface TaskRequest {
  readonly name: string;
  readonly input: unknown;
}

export type TaskAnswer =
  | { readonly output: unknown }
  | { readonly error: { readonly code: string; readonly message: string; readonly place: Place } };

/** Runs a task in the thread that calls; the thread's entry sends what it returns back. */
export async function answerTask({ name, input }: TaskRequest): Promise<TaskAnswer> {
  const task = TASKS.find((one) => one.name === name);
  if (!task) throw new RangeError(`no task is called ${name}`);
  try {
    return { output: await task.run(input as never) };
  } catch (error) {
    if (!(error instanceof SieveError)) throw error;
    return { error: { code: error.code, message: error.message, place: error.place } };
  }
}
