import { SieveError } from '@modest-sieve/core/foundation';
import { move, transferableSymbol, valueSymbol } from 'piscina';
import { buffersIn } from './buffers.js';
import { TASKS, type TaskAnswer, type TaskInput, type TaskName, type TaskOutput } from './tasks.js';

/** Each task with its own input and output, so that a name and an input that belong together can be called. */
const tasks: { readonly [N in TaskName]: (input: TaskInput<N>) => TaskOutput<N> | Promise<TaskOutput<N>> } =
  TASKS;

/** Entry of a worker thread: runs the named task. */
export default async function run<N extends TaskName>({
  name,
  input,
}: {
  name: N;
  input: TaskInput<N>;
}): Promise<TaskAnswer<N>> {
  try {
    const output = await tasks[name](input);
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
