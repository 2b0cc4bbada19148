import { useCallback, useId, useRef } from 'react';
import useSWRMutation from 'swr/mutation';
import { ApiProblem } from '../../api/client.js';

interface Doing {
  readonly busy: boolean;
  readonly problem: ApiProblem | null;
  readonly run: (work: () => Promise<unknown>) => void;
  readonly clear: () => void;
}

const problemOf = (error: unknown): ApiProblem =>
  error instanceof ApiProblem ? error : new ApiProblem(0, 'unforeseen', String(error));

/** Does one thing at a time and keeps what went wrong with it; a second call while one is under way does nothing. */
export function useAction(): Doing {
  const underWay = useRef(false);
  const { trigger, isMutating, error, reset } = useSWRMutation<
    unknown,
    unknown,
    string,
    () => Promise<unknown>
  >(useId(), (_, { arg }) => arg(), { throwOnError: false, populateCache: false, revalidate: false });
  const run = useCallback(
    (work: () => Promise<unknown>) => {
      if (underWay.current) return;
      underWay.current = true;
      // What went wrong before is no longer said.
      reset();
      void trigger(work).finally(() => (underWay.current = false));
    },
    [trigger, reset],
  );
  return { busy: isMutating, problem: error === undefined ? null : problemOf(error), run, clear: reset };
}
