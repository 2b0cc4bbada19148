import { answerTask, type TaskRequest } from '@modest-sieve/core/tasks';
import { parentPort } from 'node:worker_threads';

/** Entry of a worker thread: answers each request with what its task gives, or with its error. */
parentPort?.on('message', (request: TaskRequest) => {
  void answerTask(request).then((answer) =>
    parentPort?.postMessage(answer, 'output' in answer ? buffersIn(answer.output) : []),
  );
});

/** The buffers of typed arrays in an output, which are moved and not copied. */
function buffersIn(output: unknown): ArrayBuffer[] {
  if (ArrayBuffer.isView(output)) return output.buffer instanceof ArrayBuffer ? [output.buffer] : [];
  if (typeof output !== 'object' || output === null) return [];
  return [...new Set(Object.values(output).flatMap(buffersIn))];
}
