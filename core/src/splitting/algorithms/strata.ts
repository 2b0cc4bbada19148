import { at, quantile } from '../../foundation/numbers.js';
import { sortedValues } from '../../foundation/statistics/tally.js';
import { labelsOf, type Labelled } from '../../data/table/labels.js';
import { isCoded, type Column } from '../../data/table/table.js';

/** A numeric column with more distinct values than this is stratified by quantile bins, not by value. */
const MOST_NUMERIC_CLASSES = 12;
const QUANTILE_BINS = 5;

/** The classes by which a column stratifies: its labels, or five quantile bins of a column of many numbers. */
export function strataOf(column: Column): Labelled {
  if (isCoded(column) || !isBinned(column)) return labelsOf(column);
  const sorted = sortedValues(column.values);
  const cuts = Array.from({ length: QUANTILE_BINS - 1 }, (_, i) => quantile(sorted, (i + 1) / QUANTILE_BINS));
  const codes = new Int32Array(column.values.length);
  for (let row = 0; row < codes.length; row++) {
    const value = at(column.values, row);
    let bin = Number.isNaN(value) ? -1 : 0;
    for (let i = 0; bin >= 0 && i < cuts.length; i++) if (value > at(cuts, i)) bin = i + 1;
    codes[row] = bin;
  }
  return { labels: Array.from({ length: QUANTILE_BINS }, (_, i) => `fifth ${i + 1}`), codes };
}

/** Whether a column has so many numbers that it is stratified by bins. */
export const isBinned = (column: Column): boolean => !isCoded(column) && hasManyValues(column.values);

function hasManyValues(values: Float64Array): boolean {
  const seen = new Set<number>();
  for (let row = 0; row < values.length && seen.size <= MOST_NUMERIC_CLASSES; row++)
    if (!Number.isNaN(at(values, row))) seen.add(at(values, row));
  return seen.size > MOST_NUMERIC_CLASSES;
}
