import { LOOK_TASKS } from '../datasets/look.tasks.js';
import { TABLE_TASKS } from '../datasets/table.tasks.js';
import { EXERCISE_TASKS } from '../exercises/exercise.tasks.js';
import type { Task } from '../platform/compute/task.js';
import { RESERVE_TASKS } from '../reserve/reserve.tasks.js';
import { SPLIT_TASKS } from '../splits/split.tasks.js';
import { TRIAL_COLUMN_TASKS } from '../trials/trial-columns.tasks.js';
import { TRIAL_LOOK_TASKS } from '../trials/trial-look.tasks.js';
import { TRIAL_TASKS } from '../trials/trial.tasks.js';

/** What runs in worker threads, of all features, by name. */
export const TASKS: Readonly<Record<string, Task<never, unknown>>> = {
  ...TABLE_TASKS,
  ...LOOK_TASKS,
  ...SPLIT_TASKS,
  ...RESERVE_TASKS,
  ...EXERCISE_TASKS,
  ...TRIAL_TASKS,
  ...TRIAL_LOOK_TASKS,
  ...TRIAL_COLUMN_TASKS,
};
