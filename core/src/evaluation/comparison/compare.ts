import { at, indices } from '../../foundation/numbers.js';
import { sortedValues } from '../../foundation/statistics/tally.js';
import { percentiles } from '../../metrics/intervals/bootstrap.js';
import { confusedPairs } from '../../metrics/by-class.js';
import { delongTest, type AreaComparison } from '../../metrics/intervals/delong.js';
import type { LabelData, NumberData } from '../../metrics/metric.js';
import { seededRandom } from '../../foundation/random/random.js';
import { mcnemar, type McNemar } from './mcnemar.js';

/** Two sets of predicted classes of the same rows. */
export interface LabelComparison {
  readonly kind: 'labels';
  readonly n: number;
  /** Share of the rows of which both say the same. */
  readonly agreement: number;
  /** Rows of which they do not, ascending. */
  readonly differs: Int32Array;
  /** What the first says where the second says otherwise, the most frequent pair first. */
  readonly confused: readonly { readonly first: string; readonly second: string; readonly rows: number }[];
  /** Of the labels, and of the areas where both give probabilities; null without the truth. */
  readonly mcnemar: McNemar | null;
  readonly delong: AreaComparison | null;
}

/** Two sets of predicted numbers of the same rows. */
export interface NumberComparison {
  readonly kind: 'numbers';
  readonly n: number;
  /** Share of the rows of which both say the same number. */
  readonly agreement: number;
  readonly differs: Int32Array;
  /** Root mean square and largest of the differences of the predictions. */
  readonly rmsDifference: number;
  readonly largestDifference: number;
  /** First less second, with a bootstrap interval over the rows; null without the truth. */
  readonly rmse: PairedDifference | null;
  readonly mae: PairedDifference | null;
}

export interface PairedDifference {
  readonly difference: number;
  readonly low: number;
  readonly high: number;
}

type Predicted<T extends LabelData | NumberData> = Omit<T, 'truth' | 'weights'>;

/**
 * Compares predicted classes row by row.
 *
 * @param truth class of each row, or null where it is not known
 */
export function compareLabels(
  first: Predicted<LabelData>,
  second: Predicted<LabelData>,
  truth: Int32Array | null,
): LabelComparison {
  const n = first.predicted.length;
  const differs = indices(n).filter((row) => first.predicted[row] !== second.predicted[row]);
  const positive = first.positive;
  const scores =
    positive === null ? null : [first.probabilities?.[positive], second.probabilities?.[positive]];
  const [a, b] = scores ?? [];
  return {
    kind: 'labels',
    n,
    agreement: n === 0 ? 1 : 1 - differs.length / n,
    differs,
    confused: confusedPairs({
      ...first,
      truth: first.predicted,
      predicted: second.predicted,
      weights: null,
    }).map(({ truth: said, predicted, rows }) => ({ first: said, second: predicted, rows })),
    mcnemar: truth ? mcnemar(truth, first.predicted, second.predicted) : null,
    delong: truth && a && b && positive !== null ? delongTest(a, b, truth, positive) : null,
  };
}

const DRAWS = 1000;

/**
 * Compares predicted numbers row by row.
 *
 * @param seed of the bootstrap
 */
export function compareNumbers(
  first: Float64Array,
  second: Float64Array,
  truth: Float64Array | null,
  seed = 0,
): NumberComparison {
  const n = first.length;
  const differs = indices(n).filter((row) => first[row] !== second[row]);
  let squares = 0;
  let largest = 0;
  for (let row = 0; row < n; row++) {
    const d = at(first, row) - at(second, row);
    squares += d * d;
    largest = Math.max(largest, Math.abs(d));
  }
  const paired = (loss: (error: number) => number, figure: (mean: number) => number) =>
    truth ? pairedDifference(first, second, truth, loss, figure, seed) : null;
  return {
    kind: 'numbers',
    n,
    agreement: n === 0 ? 1 : 1 - differs.length / n,
    differs,
    rmsDifference: n === 0 ? 0 : Math.sqrt(squares / n),
    largestDifference: largest,
    rmse: paired((error) => error * error, Math.sqrt),
    mae: paired(Math.abs, (mean) => mean),
  };
}

/** A difference of figures of mean losses on the same rows, with a percentile bootstrap over the rows. */
function pairedDifference(
  first: Float64Array,
  second: Float64Array,
  truth: Float64Array,
  loss: (error: number) => number,
  figure: (mean: number) => number,
  seed: number,
): PairedDifference | null {
  const n = truth.length;
  if (n < 2) return null;
  const [a, b] = [first, second].map((predicted) =>
    predicted.map((value, row) => loss(value - at(truth, row))),
  );
  if (!a || !b) return null;
  const difference = (sumA: number, sumB: number) => figure(sumA / n) - figure(sumB / n);
  const random = seededRandom(seed, 'compare');
  const draws = new Float64Array(DRAWS);
  for (let draw = 0; draw < DRAWS; draw++) {
    let [sumA, sumB] = [0, 0];
    for (let i = 0; i < n; i++) {
      const row = random.below(n);
      sumA += at(a, row);
      sumB += at(b, row);
    }
    draws[draw] = difference(sumA, sumB);
  }
  const total = (losses: Float64Array) => losses.reduce((x, y) => x + y, 0);
  return { difference: difference(total(a), total(b)), ...percentiles(sortedValues(draws), 0.95) };
}
