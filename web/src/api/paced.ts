/** Milliseconds between the end of one turn and the start of the next, at least. */
const PAUSE = 300;

/**
 * Does something each time it is called, but never twice at once and not all the time: calls while it is under way, or just
 * after, become one. The pause is as long as the work took, so that what is slow takes half of the time at most.
 */
export function paced(work: () => Promise<unknown>): () => void {
  let isBusy = false;
  let isAsked = false;
  const turn = async () => {
    isBusy = true;
    isAsked = false;
    const start = performance.now();
    // What went wrong is said where the answer is shown.
    await work().catch(() => undefined);
    const pause = Math.max(PAUSE, performance.now() - start);
    setTimeout(() => {
      isBusy = false;
      if (isAsked) void turn();
    }, pause);
  };
  return () => {
    isAsked = true;
    if (!isBusy) void turn();
  };
}
