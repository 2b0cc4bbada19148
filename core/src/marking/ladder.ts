import type { Metric } from '../metrics/metric.js';
import { mostOfRow } from './row-readable.js';
import type { Steps } from './standard-errors.js';

/** Rows at which the step is 2.5 standard errors. */
const FEW_ROWS = 100;

/**
 * How many standard errors a step is: more where there are few rows, since there every figure tells more of each of
 * them. Chosen by simulation, see docs/decisions/0024: with 100 rows the best of the attacks that were tried, by twelve
 * students who share twenty attempts each, reaches 0.64 of rows that they know nothing of.
 */
export const stepFactor = (rows: number): number => 1 + 1.5 * Math.sqrt(FEW_ROWS / rows);

/**
 * What is shown of a score under *only when better*: the score rounded to its step, or null where it does not beat the
 * best shown so far by more than the step.
 *
 * After the Ladder mechanism (Blum and Hardt, ICML 2015). The step is a multiple of the larger of the paired standard
 * error and the score's own: the paired one alone lets a student climb who changes two answers at a time. Steps are
 * counted from what guessing reaches, so that guesses are all shown as that and tell nothing apart.
 *
 * @param shown the best that was shown so far; null where nothing was
 * @param rows that the score is of: no step is finer than one of them
 * @param anchor what guessing reaches
 */
export function ladder(
  score: number,
  shown: number | null,
  { own, paired }: Steps,
  rows: number,
  metric: Stepped,
  anchor = 0,
): number | null {
  const way = metric.better === 'higher' ? 1 : -1;
  const end = metric.range[way === 1 ? 1 : 0];
  const room = end === null ? 0 : way * (end - anchor);
  // However few the rows, a score that is much better than guessing can be shown.
  const most = room > 0 ? 0.4 * room : Infinity;
  const step = Math.min(most, stepOf({ own, paired }, rows, metric));
  if (shown !== null && way * (score - shown) <= step + 1e-12) return null;
  if (way * (score - anchor) <= step / 2) return anchor;
  return inSteps(score, step, metric, anchor);
}

/** What of a metric its steps depend on. */
type Stepped = Pick<Metric, 'key' | 'better' | 'range'>;

/** How much a score must rise: never less than a single row can change it, such as where there is no spread. */
export function stepOf({ own, paired }: Steps, rows: number, metric: Pick<Metric, 'key' | 'range'>): number {
  return Math.max(own, paired ?? 0, mostOfRow(metric) / rows) * stepFactor(rows);
}

/** Preferred numbers: ISO 3, series R10. */
const PREFERRED = [1, 1.25, 1.6, 2, 2.5, 3.15, 4, 5, 6.3, 8, 10];

/**
 * The next preferred number. A standard error to its last digit tells the score that it is of, and more; so only its
 * size goes into what is shown.
 */
function preferred(step: number): number {
  const power = 10 ** Math.floor(Math.log10(step));
  return (PREFERRED.find((one) => one >= step / power - 1e-9) ?? 10) * power;
}

/**
 * A score rounded to whole steps of a preferred size from an anchor, within the range of its metric; one at the
 * end of it stays.
 */
export function inSteps(
  score: number,
  step: number,
  { range }: Pick<Metric, 'range'>,
  anchor: number,
): number {
  const [low, high] = [range[0] ?? -Infinity, range[1] ?? Infinity];
  if (!(step > 0) || score <= low || score >= high) return score;
  const size = preferred(step);
  const rounded = anchor + Math.round((score - anchor) / size) * size;
  return Number(Math.min(high, Math.max(low, rounded)).toPrecision(6));
}
