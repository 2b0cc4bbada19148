import { at } from '../../foundation/numbers.js';
import { sortedValues } from '../../foundation/statistics/tally.js';
import { countCodes } from '../../data/table/labels.js';
import { isCoded, takeRows, type Column } from '../../data/table/table.js';

/** Difference of a feature between the rows of two parts. */
export interface Drift {
  readonly column: string;
  /** Standardised difference of means for numbers, total variation distance of the shares for categories. */
  readonly measure: 'standardised difference' | 'total variation';
  readonly value: number;
  /** Kolmogorov–Smirnov distance of numbers: the largest difference of the two distribution functions. */
  readonly distance: number | null;
  /** Of the same measure in redraws of the plan, or of random parts of the same sizes where there are none: its mean plus 4.5 deviations. */
  readonly usual: number;
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
export function driftOf(
  column: Column,
  training: Int32Array,
  heldout: Int32Array,
): Omit<Drift, 'usual'> | null {
  if (column.kind === 'text') return null;
  if (isCoded(column)) {
    const value = totalVariation(column, training, heldout);
    return {
      column: column.name,
      measure: 'total variation',
      value,
      distance: null,
      training: null,
      heldout: null,
    };
  }
  const [t, h] = [summaryAt(column.values, training), summaryAt(column.values, heldout)];
  const value = differenceOf(t, h);
  if (value === null) return null;
  const sorted = (rows: Int32Array) => {
    const taken = takeRows(column, rows);
    return isCoded(taken) ? new Float64Array() : sortedValues(taken.values);
  };
  return {
    column: column.name,
    measure: 'standardised difference',
    value,
    distance: kolmogorovSmirnov(sorted(training), sorted(heldout)),
    training: t.mean,
    heldout: h.mean,
  };
}

/** The difference alone, without the distance of distributions: what redraws are compared by. */
export const driftValue = (column: Column, training: Int32Array, heldout: Int32Array): number | null => {
  if (column.kind === 'text') return null;
  return isCoded(column)
    ? totalVariation(column, training, heldout)
    : standardisedDifference(column.values, training, heldout);
};

/** Half the sum of the differences of the shares of two parts. */
function totalVariation(
  column: Extract<Column, { codes: Int32Array }>,
  training: Int32Array,
  heldout: Int32Array,
): number {
  const shares = [training, heldout].map((rows) => {
    const counts = countCodes(
      rows.map((row) => at(column.codes, row)),
      column.levels.length,
    );
    // A missing cell is a value of its own.
    const all = [...counts, rows.length - counts.reduce((a, b) => a + b, 0)];
    return all.map((n) => (rows.length > 0 ? n / rows.length : 0));
  });
  return at(shares, 0).reduce((d, share, level) => d + Math.abs(share - at(at(shares, 1), level)), 0) / 2;
}

/** |m₁ − m₂| / sqrt((s₁² + s₂²) / 2) of some numbers in two sets of rows; null where it cannot be computed. */
export const standardisedDifference = (
  values: Float64Array,
  training: Int32Array,
  heldout: Int32Array,
): number | null => differenceOf(summaryAt(values, training), summaryAt(values, heldout));

/** Of a column that is constant in each of two parts, with different values. */
const FARTHEST = 1000;

interface Summary {
  readonly mean: number;
  readonly variance: number;
}

function differenceOf(a: Summary, b: Summary): number | null {
  const off = Math.abs(a.mean - b.mean);
  const value = off / Math.sqrt((a.variance + b.variance) / 2);
  // Constant in each part and not the same: as different as can be.
  if (value === Infinity || (off > 0 && a.variance === 0 && b.variance === 0)) return FARTHEST;
  return Number.isFinite(value) ? value : null;
}

function summaryAt(values: Float64Array, rows: Int32Array): Summary {
  let n = 0;
  let sum = 0;
  for (let i = 0; i < rows.length; i++) {
    const value = values[rows[i] ?? 0] ?? 0;
    if (Number.isNaN(value)) continue;
    n++;
    sum += value;
  }
  const mean = sum / n;
  let squares = 0;
  for (let i = 0; i < rows.length; i++) {
    const value = values[rows[i] ?? 0] ?? 0;
    if (!Number.isNaN(value)) squares += (value - mean) ** 2;
  }
  return { mean, variance: squares / (n - 1) };
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
