import { coinTwoSided } from '../../foundation/statistics/distributions.js';
import { at } from '../../foundation/numbers.js';

export interface McNemar {
  /** Rows that only the first got right, and only the second. */
  readonly onlyFirst: number;
  readonly onlySecond: number;
  /** Two-sided. */
  readonly p: number;
}

/**
 * McNemar's exact test that two classifiers are right equally often: of the rows that one alone got right, each falls
 * to either like a fair coin (McNemar, Psychometrika 12, 1947; statsmodels, mcnemar with exact=True).
 */
export function mcnemar(
  truth: ArrayLike<number>,
  first: ArrayLike<number>,
  second: ArrayLike<number>,
): McNemar {
  let onlyFirst = 0;
  let onlySecond = 0;
  for (let row = 0; row < truth.length; row++) {
    const a = at(first, row) === at(truth, row);
    const b = at(second, row) === at(truth, row);
    if (a && !b) onlyFirst++;
    if (b && !a) onlySecond++;
  }
  const n = onlyFirst + onlySecond;
  return { onlyFirst, onlySecond, p: n === 0 ? 1 : coinTwoSided(onlyFirst, n) };
}
