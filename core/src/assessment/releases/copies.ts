import { at } from '../../foundation/numbers.js';
import { labelsOf } from '../../data/table/labels.js';
import { isCoded, type Column } from '../../data/table/table.js';

/** A column that agrees with a target in all but this share of the rows gives it away. */
const COPY = 0.01;
/** Rows below which agreement says nothing. */
const FEWEST_ROWS = 10;
/** Share of the distance between the quartiles by which a rounded copy may miss a line. */
const ROUNDING = 0.02;

/**
 * Whether a column gives a target: each of its values goes with one value of the target, or it is the target in another
 * unit, perhaps rounded, in all but a few of the rows.
 *
 * @param pairs rows of the target's table, with the row of the column's table that is the same
 */
export function copies(
  target: Column,
  column: Column,
  pairs: readonly (readonly [row: number, partner: number])[],
): boolean {
  if (pairs.length < FEWEST_ROWS) return false;
  if (!isCoded(target) && !isCoded(column)) return isLinear(target.values, column.values, pairs);
  const [truth, copied] = [labelsOf(target).codes, labelsOf(column).codes];
  const byValue = new Map<number, Map<number, number>>();
  const byAnswer = new Map<number, number>();
  for (const [row, partner] of pairs) {
    const [answer, value] = [at(truth, row), at(copied, partner)];
    byAnswer.set(answer, (byAnswer.get(answer) ?? 0) + 1);
    const counts = byValue.get(value) ?? new Map<number, number>();
    byValue.set(value, counts.set(answer, (counts.get(answer) ?? 0) + 1));
  }
  // A column that names each row goes with anything.
  if (byValue.size * 2 > pairs.length || byAnswer.size < 2) return false;
  let hits = 0;
  for (const counts of byValue.values()) hits += largest(counts.values());
  return hits >= pairs.length * (1 - COPY) && hits > largest(byAnswer.values());
}

const largest = (counts: Iterable<number>): number => {
  let most = 0;
  for (const count of counts) most = Math.max(most, count);
  return most;
};

/** Whether a number is the target in another unit: a straight line through all but a few of the pairs. */
function isLinear(
  target: Float64Array,
  column: Float64Array,
  pairs: readonly (readonly [row: number, partner: number])[],
): boolean {
  const known = pairs.filter(
    ([row, partner]) => Number.isFinite(at(target, row)) && Number.isFinite(at(column, partner)),
  );
  if (known.length < Math.max(FEWEST_ROWS, pairs.length * (1 - COPY))) return false;
  const sorted = known.slice().sort((a, b) => at(column, a[1]) - at(column, b[1]));
  // Two quarters of the way in, so that a few cells that differ do not tilt the line.
  const [low, high] = [
    at(sorted, Math.floor(sorted.length / 4)),
    at(sorted, Math.floor((3 * sorted.length) / 4)),
  ];
  const [x0, x1, y0, y1] = [at(column, low[1]), at(column, high[1]), at(target, low[0]), at(target, high[0])];
  if (x0 === x1 || y0 === y1) return false;
  const slope = (y1 - y0) / (x1 - x0);
  const close = known.filter(([row, partner]) => {
    const expected = y0 + slope * (at(column, partner) - x0);
    return Math.abs(at(target, row) - expected) <= ROUNDING * Math.abs(y1 - y0);
  });
  return close.length >= known.length * (1 - COPY);
}
