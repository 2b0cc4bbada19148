import { sortedValues } from '../../foundation/statistics/tally.js';

/**
 * Rank of each value from 1, ties at the mean of the ranks they take up; NaN for NaN. In n log n.
 */
export function ranks(values: Float64Array): Float64Array {
  const sorted = sortedValues(values);
  return values.map((value) => {
    if (Number.isNaN(value)) return NaN;
    const first = countBelow(sorted, value, false);
    return (first + 1 + countBelow(sorted, value, true)) / 2;
  });
}

/** How many of the ascending values lie below one, or, with `ties`, at it or below. */
function countBelow(sorted: Float64Array, value: number, ties: boolean): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    const other = sorted[middle] ?? 0;
    if (other < value || (ties && other === value)) low = middle + 1;
    else high = middle;
  }
  return low;
}
