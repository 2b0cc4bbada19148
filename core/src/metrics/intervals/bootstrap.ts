import { at, indices, quantile } from '../../foundation/numbers.js';
import { seededRandom, type Random } from '../../foundation/random/random.js';
import { figureOf, resampled, weighted, type Judged } from '../judged.js';
import type { Metric } from '../metric.js';

/** Draws of a bootstrap, and of one over more rows than that, unless a number is asked for. */
const DRAWS = 1000;
const DRAWS_OF_MANY_ROWS = 200;
const MANY_ROWS = 20_000;

export const usualDraws = (rows: number): number => (rows > MANY_ROWS ? DRAWS_OF_MANY_ROWS : DRAWS);

/**
 * Figures of a metric on samples redrawn with replacement, ascending; undefined ones are left out
 * (Efron and Tibshirani, An Introduction to the Bootstrap, 1993).
 *
 * A sample is a number of times for each row, given as its weight, so that nothing is copied and scores are ranked
 * once; a metric that has no weighted meaning gets copied rows.
 *
 * @param strata rows that are drawn among themselves, as often as they are many: the classes, or all rows
 * @param groups where rows come in groups: whole groups are drawn instead
 */
export function bootstrapFigures(
  metric: Metric,
  judged: Judged,
  { strata, groups, draws, seed }: BootstrapOptions,
): Float64Array {
  const random = seededRandom(seed, 'bootstrap');
  const n = judged.data.truth.length;
  const times = new Float64Array(n);
  const values = new Float64Array(draws);
  let found = 0;
  for (let draw = 0; draw < draws; draw++) {
    times.fill(0);
    if (groups) drawGroups(groups, times, random);
    else for (const rows of strata) drawRows(rows, times, random);
    const sample = metric.unweighted ? resampled(judged, repeated(times)) : weighted(judged, times);
    const { value } = figureOf(metric, sample);
    if (value !== null) values[found++] = value;
  }
  return values.slice(0, found).sort();
}

export interface BootstrapOptions {
  readonly strata: readonly Int32Array[];
  readonly groups: readonly Int32Array[] | null;
  readonly draws: number;
  readonly seed: number;
}

function drawRows(rows: Int32Array, times: Float64Array, random: Random): void {
  for (let i = 0; i < rows.length; i++) {
    const row = at(rows, random.below(rows.length));
    times[row] = (times[row] ?? 0) + 1;
  }
}

function drawGroups(groups: readonly Int32Array[], times: Float64Array, random: Random): void {
  for (let i = 0; i < groups.length; i++)
    for (const row of at(groups, random.below(groups.length))) times[row] = (times[row] ?? 0) + 1;
}

function repeated(times: Float64Array): Int32Array {
  const rows = new Int32Array(times.reduce((a, b) => a + b, 0));
  let place = 0;
  times.forEach((count, row) => {
    for (let i = 0; i < count; i++) rows[place++] = row;
  });
  return rows;
}

/** The middle part of ascending figures. */
export const percentiles = (sorted: Float64Array, level: number): { low: number; high: number } => ({
  low: quantile(sorted, (1 - level) / 2),
  high: quantile(sorted, (1 + level) / 2),
});

/** The rows that are drawn among themselves: those of each true class, or all where numbers are predicted. */
export const strataOfJudged = (judged: Judged): Int32Array[] =>
  judged.kind === 'labels' ? membersOf(judged.data.truth) : [indices(judged.data.truth.length)];

/** Rows by code, in order of code. */
export function membersOf(codes: Int32Array): Int32Array[] {
  const members = new Map<number, number[]>();
  codes.forEach((code, row) => {
    const rows = members.get(code);
    if (rows) rows.push(row);
    else members.set(code, [row]);
  });
  return [...members.entries()].sort(([a], [b]) => a - b).map(([, rows]) => Int32Array.from(rows));
}
