import { EXERCISE_TASKS } from './exercise-tasks.js';
import { LOOK_TASKS } from './look-tasks.js';
import { SPLIT_TASKS } from './split-tasks.js';
import { TABLE_TASKS } from './table-tasks.js';
import { TRIAL_LOOK_TASKS } from './trial-look-tasks.js';
import { TRIAL_TASKS } from './trial-tasks.js';

/** What runs in worker threads. Arguments and results are plain data. */
export const TASKS = {
  ...TABLE_TASKS,
  ...LOOK_TASKS,
  ...SPLIT_TASKS,
  ...EXERCISE_TASKS,
  ...TRIAL_TASKS,
  ...TRIAL_LOOK_TASKS,
} as const;

export type TaskName = keyof typeof TASKS;
export type TaskInput<N extends TaskName> = Parameters<(typeof TASKS)[N]>[0];
export type TaskOutput<N extends TaskName> = Awaited<ReturnType<(typeof TASKS)[N]>>;

/** What a thread answers: the output, or an error of the reader's material, which must not lose its code on the way. */
export type TaskAnswer<N extends TaskName> =
  | { readonly output: TaskOutput<N> }
  | { readonly error: { readonly code: string; readonly message: string; readonly place: object } };
