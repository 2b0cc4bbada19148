import type { Step } from '@modest-sieve/core';
import equal from 'fast-deep-equal';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useDataSet } from '../data-set-page.js';
import { changed, keptSteps, triedSteps, trySteps, type TriedSteps } from './tried-steps.js';

interface Steps {
  readonly steps: readonly Step[];
  /** Number of the step that is shown with its controls; null for none. */
  readonly chosen: number | null;
  readonly choose: (step: number | null) => void;
  /** Puts another list in place; `chosen` is where to go on. */
  readonly change: (steps: readonly Step[], chosen: number | null) => void;
  /** Takes the latest change back; null where there is none. */
  readonly undo: (() => void) | null;
  /** Gives up what was changed since the version that is kept; null where nothing was. */
  readonly revert: (() => void) | null;
  readonly isKept: boolean;
}

/** The steps that are worked on. They outlive a reload, in the browser, until they are kept as a version. */
export function useSteps(): Steps {
  const { dataSet } = useDataSet();
  const [search, setSearch] = useSearchParams();
  const kept = keptSteps(dataSet);
  const [tried, setTried] = useState<TriedSteps>(() => triedSteps(dataSet.id) ?? { steps: kept, past: [] });
  const put = (next: TriedSteps) => {
    setTried(next);
    trySteps(dataSet.id, next);
  };
  const asked = search.get('step');
  const number = asked === null ? NaN : Number(asked) - 1;
  const choose = (step: number | null) =>
    setSearch(step === null ? {} : { step: String(step + 1) }, { replace: true });
  const { steps, past } = tried;
  const before = past.at(-1);
  // The database keeps the parts of a step in an order of its own.
  const isUnchanged = equal(steps, kept);
  const chosen = steps[number] ? number : null;
  return {
    steps,
    chosen,
    choose,
    change: (next, goOn) => {
      put(changed(tried, next));
      if (goOn !== chosen) choose(goOn);
    },
    undo: before ? () => put({ steps: before, past: past.slice(0, -1) }) : null,
    revert: isUnchanged ? null : () => put(changed(tried, kept)),
    isKept: isUnchanged && dataSet.version !== dataSet.raw.number,
  };
}
