/** Has a worker answer one request, and ends it; fails where the worker does. */
export function inWorker<A>(worker: Worker, request: object): Promise<A> {
  return new Promise<A>((resolve, reject) => {
    worker.onmessage = (event: MessageEvent<A>) => resolve(event.data);
    worker.onerror = () => reject(new Error('the worker failed'));
    worker.onmessageerror = () => reject(new Error('the worker answered in an unknown form'));
    worker.postMessage(request);
  }).finally(() => worker.terminate());
}
