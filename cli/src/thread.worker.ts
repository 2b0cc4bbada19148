import { answerTask, type TaskRequest } from '@modest-sieve/core/tasks';
import { parentPort, type MessagePort } from 'node:worker_threads';

/** What a thread is sent: a request, and where its answer goes if the caller waits and hears no message. */
export interface Asked {
  readonly request: TaskRequest;
  readonly reply?: Reply;
}

export interface Reply {
  readonly port: MessagePort;
  /** Set to 1 once the answer lies at the port. */
  readonly done: Int32Array;
}

/** Entry of a worker thread: answers each request with what its task gives, or with its error. */
parentPort?.on('message', ({ request, reply }: Asked) => {
  void answerTask(request).then((answer) => {
    (reply?.port ?? parentPort)?.postMessage(answer, 'output' in answer ? buffersIn(answer.output) : []);
    if (!reply) return;
    Atomics.store(reply.done, 0, 1);
    Atomics.notify(reply.done, 0);
  });
});

/** The buffers of typed arrays in an output, which are moved and not copied. */
function buffersIn(output: unknown): ArrayBuffer[] {
  if (ArrayBuffer.isView(output)) return output.buffer instanceof ArrayBuffer ? [output.buffer] : [];
  if (typeof output !== 'object' || output === null) return [];
  return [...new Set(Object.values(output).flatMap(buffersIn))];
}
