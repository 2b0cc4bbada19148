import { at } from '../numbers.js';
import { sortedValues } from '../tally/tally.js';
import { meanOf } from '../profile/number-summary.js';
import { countCodes } from '../table/labels.js';
import { isCoded, takeRows, type Column } from '../table/table.js';

/** Difference of a feature between the rows of two parts. */
export interface Drift {
  readonly column: string;
  /** Standardised difference of means for numbers, total variation distance of the shares for categories. */
  readonly measure: 'standardised difference' | 'total variation';
  readonly value: number;
  /** Kolmogorov–Smirnov distance of numbers: the largest difference of the two distribution functions. */
  readonly distance: number | null;
  /** Mean of a column of numbers in each part. */
  readonly training: number | null;
  readonly heldout: number | null;
}

/**
 * The difference of one feature between two sets of rows; null for free text and where it cannot be computed.
 *
 * The standardised difference is |m₁ − m₂| / sqrt((s₁² + s₂²) / 2) (Austin, Communications in Statistics 38, 2009);
 * the total variation distance is half the sum of the differences of the shares.
 */
export function driftOf(column: Column, training: Int32Array, heldout: Int32Array): Drift | null {
  if (column.kind === 'text') return null;
  if (isCoded(column)) {
    const shares = [training, heldout].map((rows) => {
      const counts = countCodes(
        rows.map((row) => at(column.codes, row)),
        column.levels.length,
      );
      const total = counts.reduce((a, b) => a + b, 0);
      return counts.map((n) => (total > 0 ? n / total : 0));
    });
    const value =
      at(shares, 0).reduce((d, share, level) => d + Math.abs(share - at(at(shares, 1), level)), 0) / 2;
    return {
      column: column.name,
      measure: 'total variation',
      value,
      distance: null,
      training: null,
      heldout: null,
    };
  }
  const sides = [training, heldout].map((rows) => {
    const taken = takeRows(column, rows);
    const sorted = isCoded(taken) ? new Float64Array() : sortedValues(taken.values);
    const mean = meanOf(sorted);
    let squares = 0;
    for (let i = 0; i < sorted.length; i++) squares += (at(sorted, i) - mean) ** 2;
    return { sorted, mean, variance: squares / (sorted.length - 1) };
  });
  const [t, h] = [at(sides, 0), at(sides, 1)];
  const value = Math.abs(t.mean - h.mean) / Math.sqrt((t.variance + h.variance) / 2);
  if (!Number.isFinite(value)) return null;
  return {
    column: column.name,
    measure: 'standardised difference',
    value,
    distance: kolmogorovSmirnov(t.sorted, h.sorted),
    training: t.mean,
    heldout: h.mean,
  };
}

/**
 * Largest difference of two empirical distribution functions (Smirnov, 1939; scipy's ks_2samp statistic).
 *
 * @param a ascending, at least one value
 * @param b ascending, at least one value
 */
export function kolmogorovSmirnov(a: Float64Array, b: Float64Array): number {
  let i = 0;
  let j = 0;
  let largest = 0;
  while (i < a.length && j < b.length) {
    const value = Math.min(at(a, i), at(b, j));
    while (i < a.length && at(a, i) === value) i++;
    while (j < b.length && at(b, j) === value) j++;
    largest = Math.max(largest, Math.abs(i / a.length - j / b.length));
  }
  return largest;
}
