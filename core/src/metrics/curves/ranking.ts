import { sortedValues } from '../../foundation/statistics/tally.js';

/** Scores in order, and the rank of each row among them. */
interface RankedScores {
  /** Distinct scores, highest first. */
  readonly scores: Float64Array;
  /** For each row the place of its score. */
  readonly placeOf: Int32Array;
  /** The ranking that was last made of them: several metrics of one kind of data ask for the same one. */
  last: { readonly of: readonly unknown[]; readonly ranking: Ranking } | null;
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
  const found = { scores: order, placeOf: placesIn(order, scores), last: null };
  ranked.set(scores, found);
  return found;
}

/** Runs of equal width into which the span of scores is cut, for each distinct score. */
const RUNS_PER_SCORE = 2;

/**
 * Positions of values among descending ones that hold them all. The span is cut into runs of equal width, so that
 * only the few scores of one run are halved in search of a value.
 */
function placesIn(descending: Float64Array, values: Float64Array): Int32Array {
  const count = descending.length;
  const highest = descending[0] ?? 0;
  const runs = RUNS_PER_SCORE * count;
  const width = (highest - (descending[count - 1] ?? 0)) / runs;
  const runOf = (value: number) =>
    width > 0 && width < Infinity ? Math.min(runs - 1, Math.floor((highest - value) / width)) : 0;
  /** For each run the first place that lies in it or after it. */
  const starts = new Int32Array(runs + 1).fill(count);
  for (let place = count - 1; place >= 0; place--) starts[runOf(descending[place] ?? 0)] = place;
  for (let run = runs - 1; run >= 0; run--) starts[run] = Math.min(starts[run] ?? 0, starts[run + 1] ?? 0);
  const places = new Int32Array(values.length);
  for (let row = 0; row < values.length; row++) {
    const value = values[row] ?? 0;
    const run = runOf(value);
    let low = starts[run] ?? 0;
    let high = (starts[run + 1] ?? 0) - 1;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if ((descending[middle] ?? 0) > value) low = middle + 1;
      else high = middle;
    }
    places[row] = low;
  }
  return places;
}

/**
 * Ranks rows by score.
 *
 * @param scores of n rows, none NaN; the array must not be changed afterwards
 * @param truth class of each row; not changed afterwards either
 * @param label the class that is positive
 * @param weights of the rows, or null for 1 each
 */
export function rankingOf(
  scores: Float64Array,
  truth: ArrayLike<number>,
  label: number,
  weights: Float64Array | null,
): Ranking {
  const ranks = rankScores(scores);
  const of = [truth, label];
  // A bootstrap writes the weights of every draw into one array.
  if (weights === null && ranks.last?.of.every((part, i) => part === of[i])) return ranks.last.ranking;
  const { scores: order, placeOf } = ranks;
  const positive = new Float64Array(order.length);
  const negative = new Float64Array(order.length);
  for (let row = 0; row < placeOf.length; row++) {
    const counts = truth[row] === label ? positive : negative;
    const place = placeOf[row] ?? 0;
    counts[place] = (counts[place] ?? 0) + (weights ? (weights[row] ?? 0) : 1);
  }
  const ranking = { scores: order, positive, negative };
  if (weights === null) ranks.last = { of, ranking };
  return ranking;
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
