import { normalHalfWidth, normalTwoSided } from '../../foundation/statistics/distributions.js';
import { rankingOf } from '../curves/ranking.js';

export interface AreaEstimate {
  readonly area: number;
  readonly variance: number;
  readonly low: number;
  readonly high: number;
}

/** For each row the share of the rows of the other class that it ranks correctly against, ties counting half. */
interface Placements {
  readonly area: number;
  readonly positive: Float64Array;
  readonly negative: Float64Array;
}

/**
 * Placements over the sorted scores in n log n (Sun and Xu, IEEE Signal Processing Letters 21, 2014), in the order of
 * the rows of each class.
 */
function placementsOf(scores: Float64Array, truth: ArrayLike<number>, label: number): Placements {
  const ranking = rankingOf(scores, truth, label, null);
  const positives = ranking.positive.reduce((a, b) => a + b, 0);
  const negatives = ranking.negative.reduce((a, b) => a + b, 0);
  const placeOfScore = new Map<number, number>();
  const beaten = new Float64Array(ranking.scores.length);
  const beating = new Float64Array(ranking.scores.length);
  let positivesAbove = 0;
  let negativesAbove = 0;
  let area = 0;
  ranking.scores.forEach((score, place) => {
    placeOfScore.set(score, place);
    const [p, n] = [ranking.positive[place] ?? 0, ranking.negative[place] ?? 0];
    beaten[place] = (negatives - negativesAbove - n / 2) / negatives;
    beating[place] = (positivesAbove + p / 2) / positives;
    area += (p / positives) * (beaten[place] ?? 0);
    positivesAbove += p;
    negativesAbove += n;
  });
  const positive = new Float64Array(positives);
  const negative = new Float64Array(negatives);
  let p = 0;
  let n = 0;
  for (let row = 0; row < scores.length; row++) {
    const place = placeOfScore.get(scores[row] ?? 0) ?? 0;
    if (truth[row] === label) positive[p++] = beaten[place] ?? 0;
    else negative[n++] = beating[place] ?? 0;
  }
  return { area, positive, negative };
}

/** Variance of the mean of placements, with n − 1; or covariance of two. */
function covariance(a: Float64Array, b: Float64Array, meanA: number, meanB: number): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += ((a[i] ?? 0) - meanA) * ((b[i] ?? 0) - meanB);
  return sum / (a.length - 1) / a.length;
}

const between = (a: Placements, b: Placements): number =>
  covariance(a.positive, b.positive, a.area, b.area) + covariance(a.negative, b.negative, a.area, b.area);

/**
 * Area under the ROC curve with DeLong's variance and interval, cut to 0..1 (DeLong, DeLong and Clarke-Pearson,
 * Biometrics 44, 1988).
 *
 * @param truth class of each row
 * @param label the class that is positive
 * @returns null where fewer than two rows are positive or negative: a variance needs two
 */
export function delong(
  scores: Float64Array,
  truth: ArrayLike<number>,
  label: number,
  level = 0.95,
): AreaEstimate | null {
  const placements = placementsOf(scores, truth, label);
  if (placements.positive.length < 2 || placements.negative.length < 2) return null;
  const { area } = placements;
  const variance = between(placements, placements);
  const half = normalHalfWidth(level) * Math.sqrt(variance);
  return { area, variance, low: Math.max(0, area - half), high: Math.min(1, area + half) };
}

export interface AreaComparison {
  readonly first: number;
  readonly second: number;
  readonly z: number;
  /** Two-sided. */
  readonly p: number;
}

/**
 * DeLong's test that two scores of the same rows have the same area under the ROC curve (as for `delong`).
 *
 * @returns null where fewer than two rows are positive or negative, or where the difference has no variance
 */
export function delongTest(
  first: Float64Array,
  second: Float64Array,
  truth: ArrayLike<number>,
  label: number,
): AreaComparison | null {
  const [a, b] = [placementsOf(first, truth, label), placementsOf(second, truth, label)];
  if (a.positive.length < 2 || a.negative.length < 2) return null;
  const variance = between(a, a) + between(b, b) - 2 * between(a, b);
  if (!(variance > 0)) return null;
  const z = (a.area - b.area) / Math.sqrt(variance);
  return { first: a.area, second: b.area, z, p: normalTwoSided(z) };
}
