import type { Step } from '@modest-sieve/core';
import type { Schemas } from '../../api/client.js';

/** Steps that are not kept yet, as the browser holds them. */
export interface TriedSteps {
  readonly steps: readonly Step[];
  /** What stood before each change, the latest last. */
  readonly past: readonly (readonly Step[])[];
}

const MOST_UNDONE = 100;
const keyOf = (dataSetId: string): string => `sieve steps ${dataSetId}`;

/** The steps of the newest version that was prepared. */
export const keptSteps = (dataSet: Schemas['DataSetDetail']): readonly Step[] =>
  dataSet.versions.find((version) => version.from !== null)?.steps ?? [];

export function triedSteps(dataSetId: string): TriedSteps | null {
  try {
    const found = JSON.parse(localStorage.getItem(keyOf(dataSetId)) ?? 'null') as TriedSteps | null;
    return found && Array.isArray(found.steps) && Array.isArray(found.past) ? found : null;
  } catch {
    return null;
  }
}

export const trySteps = (dataSetId: string, tried: TriedSteps): void =>
  localStorage.setItem(keyOf(dataSetId), JSON.stringify(tried));

/** Another list in place of the one that is tried, which can be taken back. */
export const changed = ({ steps, past }: TriedSteps, next: readonly Step[]): TriedSteps => ({
  steps: next,
  past: [...past, steps].slice(-MOST_UNDONE),
});

/** Puts a step behind those that are tried, or kept where none are, and gives its place. */
export function addTriedStep(dataSetId: string, kept: readonly Step[], step: Step): number {
  const tried = triedSteps(dataSetId) ?? { steps: kept, past: [] };
  trySteps(dataSetId, changed(tried, [...tried.steps, step]));
  return tried.steps.length;
}
