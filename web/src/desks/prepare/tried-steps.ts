import type { Step } from '@modest-sieve/core/data';
import type { Schemas } from '../../api/client.js';
import { NO_HISTORY, remember, type History } from '../../kit/sentence/history.js';

/** Steps that are not saved yet, as the browser holds them. */
export interface TriedSteps {
  readonly steps: readonly Step[];
  /** Lists that were before, and those that were undone. */
  readonly history: History<readonly Step[]>;
}

const keyOf = (dataSetId: string): string => `sieve steps ${dataSetId}`;

/** The steps of the version; of a raw table those of the prepared version before it, which are to be done on it too. */
export const savedSteps = ({ versions, version }: Schemas['DataSetDetail']): readonly Step[] => {
  const here = versions.find(({ number }) => number === version);
  if (here && here.from !== null) return here.steps;
  // Versions come with the newest first.
  return versions.find(({ number, from }) => number < version && from !== null)?.steps ?? [];
};

export function triedSteps(dataSetId: string): TriedSteps | null {
  try {
    const found = JSON.parse(localStorage.getItem(keyOf(dataSetId)) ?? 'null') as TriedSteps | null;
    const isWhole = Array.isArray(found?.steps) && Array.isArray(found.history.past);
    return isWhole && Array.isArray(found.history.future) ? found : null;
  } catch {
    return null;
  }
}

export const trySteps = (dataSetId: string, tried: TriedSteps): void =>
  localStorage.setItem(keyOf(dataSetId), JSON.stringify(tried));

/**
 * Another list in place of the one that is tried, which can be undone.
 *
 * @param what names what was changed, so that typing it is one change; null for a change of its own
 */
export const changed = (
  { steps, history }: TriedSteps,
  next: readonly Step[],
  what: string | null = null,
): TriedSteps => ({ steps: next, history: remember(history, steps, what) });

/** Puts a step behind those that are tried, or saved where none are, and gives its place. */
export function addTriedStep(dataSetId: string, saved: readonly Step[], step: Step): number {
  const tried = triedSteps(dataSetId) ?? { steps: saved, history: NO_HISTORY };
  trySteps(dataSetId, changed(tried, [...tried.steps, step]));
  return tried.steps.length;
}
