import { summarise } from '../profile/number-summary.js';
import { tallyOf, type Tally } from '../../foundation/statistics/tally.js';

/** Standard deviation (n − 1) of the values that are not NaN; NaN for fewer than two. */
export const deviationOf = (values: Float64Array): number => {
  const tally = tallyOf(values);
  return tally.total === 0 ? NaN : (summarise(tally).sd ?? NaN);
};

/** The most frequent value, the smallest of those that are equally so; NaN without values. */
export function modeOf({ values, counts }: Tally): number {
  let best = 0;
  for (let i = 1; i < values.length; i++) if ((counts[i] ?? 0) > (counts[best] ?? 0)) best = i;
  return values[best] ?? NaN;
}

/** The most frequent code, the first of those that are equally so; −1 without any. */
export function modeOfCodes(counts: readonly number[]): number {
  let best = -1;
  counts.forEach((count, code) => {
    if (count > 0 && count > (counts[best] ?? 0)) best = code;
  });
  return best;
}
