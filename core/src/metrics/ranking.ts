import { sortedValues } from '../numbers.js';

/** Scores in order, and where each row stands among them. */
interface RankedScores {
  /** Distinct scores, highest first. */
  readonly scores: Float64Array;
  /** For each row the place of its score. */
  readonly placeOf: Int32Array;
}

/** Rows ranked from the highest score down, all rows of one score at one place. */
export interface Ranking {
  readonly scores: Float64Array;
  /** Positive and negative rows at each place, or the sums of their weights. */
  readonly positive: Float64Array;
  readonly negative: Float64Array;
}

/** Several metrics, and every draw of a bootstrap, rank the same scores: the order is found once. */
const ranked = new WeakMap<Float64Array, RankedScores>();

function rankScores(scores: Float64Array): RankedScores {
  const known = ranked.get(scores);
  if (known) return known;
  const sorted = sortedValues(scores);
  let distinct = 0;
  const descending = new Float64Array(sorted.length);
  for (let i = sorted.length - 1; i >= 0; i--) {
    if (i === sorted.length - 1 || sorted[i] !== sorted[i + 1]) descending[distinct++] = sorted[i] ?? 0;
  }
  const order = descending.slice(0, distinct);
  const placeOf = new Int32Array(scores.length);
  for (let row = 0; row < scores.length; row++) placeOf[row] = placeIn(order, scores[row] ?? 0);
  const found = { scores: order, placeOf };
  ranked.set(scores, found);
  return found;
}

/** Position of a value that is among descending ones. */
function placeIn(descending: Float64Array, value: number): number {
  let low = 0;
  let high = descending.length - 1;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((descending[middle] ?? 0) > value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * Ranks rows by score.
 *
 * @param scores of n rows, none NaN; the array must not be changed afterwards
 * @param truth class of each row
 * @param label the class that is positive
 * @param weights of the rows, or null for 1 each
 */
export function rankingOf(
  scores: Float64Array,
  truth: ArrayLike<number>,
  label: number,
  weights: Float64Array | null,
): Ranking {
  const { scores: order, placeOf } = rankScores(scores);
  const positive = new Float64Array(order.length);
  const negative = new Float64Array(order.length);
  for (let row = 0; row < placeOf.length; row++) {
    const counts = truth[row] === label ? positive : negative;
    const place = placeOf[row] ?? 0;
    counts[place] = (counts[place] ?? 0) + (weights ? (weights[row] ?? 0) : 1);
  }
  return { scores: order, positive, negative };
}

/**
 * Area under the ROC curve: the chance that a positive row scores above a negative one, a tie counting half
 * (Hanley and McNeil, Radiology 143, 1982). NaN without rows of both kinds.
 */
export function areaOf({ positive, negative }: Ranking): number {
  let above = 0;
  let positives = 0;
  let negatives = 0;
  for (let place = 0; place < positive.length; place++) {
    const here = positive[place] ?? 0;
    above += (negative[place] ?? 0) * (positives + here / 2);
    positives += here;
    negatives += negative[place] ?? 0;
  }
  return above / (positives * negatives);
}
