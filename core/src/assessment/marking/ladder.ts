import type { Metric } from '../../metrics/metric.js';
import { mostOfRow, readsRows } from './row-readable.js';
import type { StandardErrors } from './standard-errors.js';

/** What decides how a score is shown while an exercise is open. */
export interface Steps extends StandardErrors {
  /** In which it is shown, see `gridOf`. */
  readonly step: number;
  /** How much the score can change with a single row, and how much that of guesses does. */
  readonly oneRow: number;
  readonly oneRowOfGuesses: number;
}

/** Rows at which the step is 2.5 standard errors. */
const FEW_ROWS = 100;

/**
 * How many standard errors a step is: more where there are few rows, since there every figure shows more of each of
 * them. Chosen by simulation, see docs/decisions/0024.
 */
export const stepFactor = (rows: number): number => 1 + 1.5 * Math.sqrt(FEW_ROWS / rows);

/**
 * What is shown of a score under *only when better*: the score rounded to a step, or null where it is not a step
 * above the best shown so far.
 *
 * After the Ladder mechanism (Blum and Hardt, ICML 2015). A score must rise by a multiple of the larger of the paired
 * standard error and its own: the paired one alone lets a student climb who changes two answers at a time. Steps are
 * counted from what guessing reaches, so that guesses are all shown as that and show nothing of one another.
 *
 * @param shown the best that was shown so far; null where nothing was
 * @param rows that the score is of: it must rise by more than one of them
 * @param anchor what guessing reaches
 */
export function ladder(
  score: number,
  shown: number | null,
  { own, paired, step }: Steps,
  rows: number,
  metric: Stepped,
  anchor: number,
): number | null {
  const way = metric.better === 'higher' ? 1 : -1;
  const end = metric.range[way === 1 ? 1 : 0];
  const room = end === null ? 0 : way * (end - anchor);
  // However few the rows, a score that is much better than guessing can be shown.
  const most = room > 0 ? 0.4 * room : Infinity;
  const rise = Math.min(most, Math.max(own, paired ?? 0, mostOfRow(metric) / rows) * stepFactor(rows));
  if (shown !== null && way * (score - shown) <= rise + 1e-12) return null;
  const better = inSteps(way * (score - anchor) <= 0 ? anchor : score, step, metric, anchor);
  return shown !== null && way * (better - shown) <= 1e-12 ? null : better;
}

/** What of a metric its steps depend on. */
type Stepped = Pick<Metric, 'key' | 'better' | 'range'>;

/** A score rounded to whole steps from an anchor, within the range of its metric. */
export function inSteps(
  score: number,
  step: number,
  { range }: Pick<Metric, 'range'>,
  anchor: number,
): number {
  const steps = step > 0 ? Math.round((score - anchor) / step) * step : 0;
  const [low, high] = [range[0] ?? -Infinity, range[1] ?? Infinity];
  return Number(Math.min(high, Math.max(low, anchor + steps)).toPrecision(4));
}

/** Shares of a step that a single row may be where it is more than in a guess. */
const MUCH = 0.75;
/** Where a single row can be read off the metric, whatever it is in a guess: of numbers, and of probabilities. */
const [MUCH_OF_NUMBERS, MUCH_OF_PROBABILITIES] = [0.5, 0.25];

/**
 * Whether so much of a score depends on a single row that showing it would show the row, even in steps: where one row is
 * more than a step, or a good part of one and of more weight than in a guess.
 */
export function dependsOnOneRow(
  { step, oneRow, oneRowOfGuesses }: Steps,
  metric: Pick<Metric, 'key' | 'needs'>,
): boolean {
  // Results of earlier versions do not know their steps: the comparison fails then, and nothing is shown.
  if (!(oneRow <= step + 1e-9)) return true;
  if (readsRows(metric))
    return oneRow > (metric.needs === 'numbers' ? MUCH_OF_NUMBERS : MUCH_OF_PROBABILITIES) * step;
  return oneRow > MUCH * step && oneRow > 1.5 * oneRowOfGuesses;
}
