import { useCallback, useRef, useState } from 'react';
import { ApiProblem } from '../../api/client.js';

interface Doing {
  readonly busy: boolean;
  readonly problem: ApiProblem | null;
  readonly run: (work: () => Promise<unknown>) => void;
  readonly clear: () => void;
}

/** Runs one thing at a time and keeps what went wrong with it; a second call while one runs is not made. */
export function useAction(): Doing {
  const running = useRef(false);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  const run = useCallback((work: () => Promise<unknown>) => {
    if (running.current) return;
    running.current = true;
    setBusy(true);
    setProblem(null);
    work()
      .catch((error: unknown) => {
        setProblem(error instanceof ApiProblem ? error : new ApiProblem(0, 'unforeseen', String(error)));
      })
      .finally(() => {
        running.current = false;
        setBusy(false);
      });
  }, []);
  return { busy, problem, run, clear: useCallback(() => setProblem(null), []) };
}
