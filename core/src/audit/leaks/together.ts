import { leastSquares } from '../../foundation/statistics/least-squares.js';
import { at, indices } from '../../foundation/numbers.js';
import { isCoded, type NumberColumn } from '../../data/table/table.js';
import { strengthOf } from './predictive.js';
import type { Leak, Watched } from './leak.js';

const MOST_ROWS = 2000;
/** Share of the variance that columns together must explain to be called parts of the target. */
const EXACT = 0.9999;
/** A column whose share of the target's spread is smaller than this takes no part. */
const NOTHING = 1e-3;

/** Columns of numbers whose sum, each times a number, is the target: parts of a whole. */
export function watchTogether(watched: Watched): Leak[] {
  const { features, target, roles } = watched;
  if (roles.task !== 'regression' || isCoded(target)) return [];
  const numbers = features.filter(
    (column): column is NumberColumn =>
      column.kind === 'number' &&
      column.values.some((value) => !Number.isNaN(value)) &&
      (strengthOf(column, watched)?.strength ?? 0) < 1 - 1e-9,
  );
  const complete = indices(target.values.length).filter(
    (row) =>
      !Number.isNaN(at(target.values, row)) &&
      numbers.every((column) => !Number.isNaN(at(column.values, row))),
  );
  const step = Math.max(1, Math.floor(complete.length / MOST_ROWS));
  const rows = complete.filter((_, i) => i % step === 0);
  if (numbers.length < 2 || rows.length < 2 * numbers.length + 2) return [];
  const take = (values: Float64Array) => Float64Array.from(rows, (row) => at(values, row));
  const y = take(target.values);
  const columns = numbers.map((column) => take(column.values));
  const { slopes, r2 } = leastSquares(columns, y);
  if (!(r2 >= EXACT)) return [];
  const spread = deviation(y);
  const parts = numbers.filter(
    (_, c) => Math.abs(at(slopes, c)) * deviation(at(columns, c)) > NOTHING * spread,
  );
  if (parts.length < 2) return [];
  const names = parts.map((column) => column.name).join(', ');
  return [
    {
      column: names,
      kind: 'sum',
      measure: r2,
      message: `${names} together give ${roles.target} exactly: each times a number, they sum to it.`,
    },
  ];
}

function deviation(values: Float64Array): number {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return Math.sqrt(values.reduce((total, value) => total + (value - mean) ** 2, 0) / values.length);
}
