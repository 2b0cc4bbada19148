import type { Step } from '@modest-sieve/core';
import equal from 'fast-deep-equal';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useDataSet } from '../data-set-page.js';

const MOST_UNDONE = 100;

interface Edited {
  readonly steps: readonly Step[];
  /** What stood before each change, the latest last. */
  readonly past: readonly (readonly Step[])[];
}

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
  const key = `sieve steps ${dataSet.id}`;
  const kept = dataSet.versions.find((version) => version.from !== null)?.steps ?? [];
  const [edited, setEdited] = useState<Edited>(() => stored(key) ?? { steps: kept, past: [] });
  const put = (next: Edited) => {
    setEdited(next);
    localStorage.setItem(key, JSON.stringify(next));
  };
  const asked = search.get('step');
  const number = asked === null ? NaN : Number(asked) - 1;
  const choose = (step: number | null) =>
    setSearch(step === null ? {} : { step: String(step + 1) }, { replace: true });
  const { steps, past } = edited;
  const before = past.at(-1);
  // The database keeps the parts of a step in an order of its own.
  const isUnchanged = equal(steps, kept);
  return {
    steps,
    chosen: steps[number] ? number : null,
    choose,
    change: (next, chosen) => {
      put({ steps: next, past: [...past, steps].slice(-MOST_UNDONE) });
      if (chosen !== (steps[number] ? number : null)) choose(chosen);
    },
    undo: before ? () => put({ steps: before, past: past.slice(0, -1) }) : null,
    revert: isUnchanged ? null : () => put({ steps: kept, past: [...past, steps] }),
    isKept: isUnchanged && dataSet.version !== dataSet.raw.number,
  };
}

function stored(key: string): Edited | null {
  try {
    const found = JSON.parse(localStorage.getItem(key) ?? 'null') as Edited | null;
    return found && Array.isArray(found.steps) && Array.isArray(found.past) ? found : null;
  } catch {
    return null;
  }
}
