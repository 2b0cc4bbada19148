import type { Step } from '@modest-sieve/core/data';
import equal from 'fast-deep-equal';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { NO_HISTORY, redone, undone } from '../../kit/sentence/history.js';
import type { UndoRedo } from '../../kit/sentence/undo-redo.js';
import { useDataSet } from '../use-data-set.js';
import { changed, savedSteps, triedSteps, trySteps, type TriedSteps } from './tried-steps.js';

interface Steps extends UndoRedo {
  readonly steps: readonly Step[];
  /** Number of the step that is shown with its controls; null for none. */
  readonly chosen: number | null;
  readonly choose: (step: number | null) => void;
  /** Puts another list in place; `chosen` is where to go on, `what` names what was changed where it may be typed. */
  readonly change: (steps: readonly Step[], chosen: number | null, what?: string) => void;
  /** Gives up what was changed since the version that is saved; null where nothing was. */
  readonly revert: (() => void) | null;
  readonly isSaved: boolean;
}

/** The steps that are worked on. They outlive a reload, in the browser, until they are saved as a version. */
export function useSteps(): Steps {
  const { dataSet } = useDataSet();
  const [search, setSearch] = useSearchParams();
  const saved = savedSteps(dataSet);
  const [tried, setTried] = useState<TriedSteps>(
    () => triedSteps(dataSet.address) ?? { steps: saved, history: NO_HISTORY },
  );
  const put = (next: TriedSteps) => {
    setTried(next);
    trySteps(dataSet.address, next);
  };
  const asked = search.get('step');
  const number = asked === null ? NaN : Number(asked) - 1;
  const choose = (step: number | null) =>
    setSearch(step === null ? {} : { step: String(step + 1) }, { replace: true });
  const { steps, history } = tried;
  const move = (moved: ReturnType<typeof undone<readonly Step[]>>) =>
    moved ? () => put({ steps: moved.state, history: moved.history }) : null;
  // The database keeps the parts of a step in an order of its own.
  const isUnchanged = equal(steps, saved);
  const chosen = steps[number] ? number : null;
  return {
    steps,
    chosen,
    choose,
    change: (next, goOn, what) => {
      put(changed(tried, next, what ?? null));
      if (goOn !== chosen) choose(goOn);
    },
    undo: move(undone(history, steps)),
    redo: move(redone(history, steps)),
    revert: isUnchanged ? null : () => put(changed(tried, saved)),
    isSaved: isUnchanged && dataSet.version !== dataSet.raw.number,
  };
}
