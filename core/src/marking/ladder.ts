import type { Metric } from '../metrics/metric.js';
import type { Steps } from './standard-errors.js';

/**
 * What is shown of a score under *only when better*: the score rounded to its step, or null where it does not beat the
 * best shown so far by more than the step.
 *
 * After the Ladder mechanism (Blum and Hardt, ICML 2015). The step is the larger of the paired standard error and the
 * score's own: the paired one alone lets whoever changes two answers at a time climb.
 *
 * @param shown the best that was shown so far; null where nothing was
 * @param rows that the score is of: no step is finer than one of them
 */
export function ladder(
  score: number,
  shown: number | null,
  { own, paired }: Steps,
  rows: number,
  { better, range }: Pick<Metric, 'better' | 'range'>,
): number | null {
  // A score without spread, such as a perfect one, is still uncertain by a row.
  const finest = range[0] !== null && range[1] !== null ? (range[1] - range[0]) / rows : 0;
  const step = Math.max(own, paired ?? 0, finest);
  const way = better === 'higher' ? 1 : -1;
  if (shown !== null && way * (score - shown) <= step + 1e-12) return null;
  if (!(step > 0)) return score;
  const rounded = Math.round(score / step) * step;
  const [low, high] = [range[0] ?? -Infinity, range[1] ?? Infinity];
  return Number(Math.min(high, Math.max(low, rounded)).toPrecision(6));
}
