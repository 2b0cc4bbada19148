import { SieveError } from '@modest-sieve/core';
import { TASKS, type TaskAnswer, type TaskInput, type TaskName } from './tasks.js';

/** Entry of a worker thread: runs the named task. */
export default function run<N extends TaskName>({
  name,
  input,
}: {
  name: N;
  input: TaskInput<N>;
}): TaskAnswer<N> {
  const task = TASKS[name] as unknown as (input: TaskInput<N>) => never;
  try {
    return { output: task(input) };
  } catch (error) {
    if (!(error instanceof SieveError)) throw error;
    return { error: { code: error.code, message: error.message, place: error.place } };
  }
}
