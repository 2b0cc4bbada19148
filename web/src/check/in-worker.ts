/** A worker was ended before it answered. */
export class TookTooLong extends Error {}

/**
 * Has a worker answer one request, and ends it; fails where the worker does.
 *
 * @param longest milliseconds after which it is ended; left out where it may take as long as it does
 */
export function inWorker<A>(worker: Worker, request: object, longest?: number): Promise<A> {
  return new Promise<A>((resolve, reject) => {
    if (longest !== undefined) setTimeout(() => reject(new TookTooLong()), longest);
    worker.onmessage = (event: MessageEvent<A>) => resolve(event.data);
    worker.onerror = () => reject(new Error('the worker failed'));
    worker.onmessageerror = () => reject(new Error('the worker answered in an unknown form'));
    worker.postMessage(request);
  }).finally(() => worker.terminate());
}
