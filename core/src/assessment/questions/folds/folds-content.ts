import type { Predictions } from '../../files/reader.js';
import type { Typed } from '../../generators/typed.js';
import type { Field } from '../contract/answer.js';

/** What a student hands in: the fold of each row from 0, and with it the predictions and what was reported of them. */
export interface FoldsContent {
  readonly folds: Int32Array;
  readonly predictions: Predictions | null;
  readonly mean: Typed | null;
  readonly se: Typed | null;
}

/** Figures that are typed beside the file. */
export const REPORTED: readonly Field[] = [
  { key: 'mean', label: 'mean over the folds', choices: null },
  { key: 'se', label: 'standard error', choices: null },
];

/** A cell that must hold a fold, from 1 to k. */
export const foldCell = (k: number) => ({
  name: 'fold',
  expected: `a whole number from 1 to ${k}`,
  read: (text: string) => {
    const fold = Number(text);
    if (Number.isInteger(fold) && fold >= 1 && fold <= k) return fold - 1;
    if (fold === 0) return { wrong: 'is not a fold: folds are numbered from 1' };
    return { wrong: `is not a fold from 1 to ${k}` };
  },
});
