import { SieveError } from '@modest-sieve/core/foundation';
import { move, transferableSymbol, valueSymbol } from 'piscina';
import { buffersIn } from '../platform/compute/buffers.js';
import type { TaskAnswer } from '../platform/compute/task.js';
import { TASKS } from './tasks.js';

/** Entry of a worker thread: runs the named task. */
export default async function run({
  name,
  input,
}: {
  name: string;
  input: never;
}): Promise<TaskAnswer<unknown>> {
  const task = TASKS[name];
  if (!task) throw new RangeError(`there is no task ${name}`);
  try {
    const output = await task.run(input);
    return handedOver({ output }, buffersIn(output));
  } catch (error) {
    if (!(error instanceof SieveError)) throw error;
    return { error: { code: error.code, message: error.message, place: error.place } };
  }
}

/** A value whose buffers go to the other thread with it. */
const handedOver = <T extends object>(value: T, buffers: ArrayBuffer[]): T =>
  buffers.length === 0
    ? value
    : (move({ [transferableSymbol]: buffers, [valueSymbol]: value }) as unknown as T);
