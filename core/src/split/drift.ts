import { at, sum } from '../numbers.js';
import { countCodes } from '../table/labels.js';
import { isCoded, takeRows, type Column } from '../table/table.js';

/** Difference of a feature between training and held-out rows. */
export interface Drift {
  readonly column: string;
  /** Standardised difference of means for numbers, total variation distance of the shares for categories. */
  readonly measure: 'standardised difference' | 'total variation';
  readonly value: number;
  readonly training: number | null;
  readonly heldout: number | null;
}

/** The difference of one feature; null for free text and where it cannot be computed. */
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
    return { column: column.name, measure: 'total variation', value, training: null, heldout: null };
  }
  const moments = [training, heldout].map((rows) => {
    const values = (takeRows(column, rows) as typeof column).values.filter((value) => !Number.isNaN(value));
    const mean = sum(values) / values.length;
    return { mean, variance: sum(values.map((value) => (value - mean) ** 2)) / (values.length - 1) };
  });
  const [t, h] = [at(moments, 0), at(moments, 1)];
  const value = Math.abs(t.mean - h.mean) / Math.sqrt((t.variance + h.variance) / 2);
  if (!Number.isFinite(value)) return null;
  return {
    column: column.name,
    measure: 'standardised difference',
    value,
    training: t.mean,
    heldout: h.mean,
  };
}
