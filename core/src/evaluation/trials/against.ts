import { compareLabels, compareNumbers } from '../comparison/compare.js';
import { correctedResampledT, type ResampledT } from '../comparison/over-folds.js';
import { confusionCounts } from '../../metrics/confusion.js';
import type { Judged } from '../../metrics/judged.js';
import { undefinedBecause, type Metric, type Undefined } from '../../metrics/metric.js';
import { at, shortNumber } from '../../foundation/numbers.js';
import type { SettingSummary } from './setting-summary.js';

/** Rows on which two models differ that are shown. */
const MOST_ROWS = 30;

/** One model against another in the same folds. */
export interface Against {
  /** First less second, for each metric; or why it cannot be tested. */
  readonly tests: Readonly<Record<string, ResampledT | Undefined>>;
  /** Share of the rows of which both say the same class; null for numbers. */
  readonly agreement: number | null;
  /** Root mean square of the differences of their numbers; null for classes. */
  readonly rmsDifference: number | null;
  /** McNemar's exact test, where classes are predicted; no p where rows come in groups, which it takes for independent. */
  readonly mcnemar: {
    readonly onlyFirst: number;
    readonly onlySecond: number;
    readonly p: number | null;
  } | null;
  /** Rows of each class, and what each model says of them: for each true class the rows by predicted class. Null for numbers. */
  readonly confusions: {
    readonly labels: readonly string[];
    readonly first: readonly (readonly number[])[];
    readonly second: readonly (readonly number[])[];
  } | null;
  /** Rows on which they differ most. */
  readonly rows: readonly {
    readonly row: number;
    readonly truth: string;
    readonly first: string;
    readonly second: string;
  }[];
}

/**
 * Compares two models over the same folds, and by their out-of-fold predictions of the same rows.
 *
 * @param ratio rows tested over rows trained on
 * @param isGrouped whether rows come in groups
 */
export function against(
  metrics: readonly Metric[],
  [first, second]: readonly [SettingSummary, SettingSummary],
  ratio: number,
  [a, b]: readonly [Judged, Judged],
  rows: Int32Array,
  isGrouped: boolean,
): Against {
  const tests = metrics.map(({ key }): [string, ResampledT | Undefined] => {
    const figures = [first, second].map((summary) =>
      (summary.metrics[key]?.folds ?? []).flatMap((value) => (value === null ? [] : [value])),
    );
    const [x = [], y = []] = figures;
    return [
      key,
      x.length === y.length
        ? correctedResampledT(x, y, ratio)
        : undefinedBecause('the figure is undefined in a fold of one of them'),
    ];
  });
  return { tests: Object.fromEntries(tests), ...byRows(a, b, rows, isGrouped) };
}

function byRows(a: Judged, b: Judged, rows: Int32Array, isGrouped: boolean): Omit<Against, 'tests'> {
  if (a.kind === 'labels' && b.kind === 'labels') {
    const { labels, truth } = a.data;
    const found = compareLabels(a.data, b.data, truth);
    return {
      agreement: found.agreement,
      rmsDifference: null,
      confusions: { labels, first: confusionCounts(a.data), second: confusionCounts(b.data) },
      mcnemar: found.mcnemar && { ...found.mcnemar, p: isGrouped ? null : found.mcnemar.p },
      rows: Array.from(found.differs.slice(0, MOST_ROWS), (i) => ({
        row: at(rows, i) + 1,
        truth: at(labels, at(truth, i)),
        first: at(labels, at(a.data.predicted, i)),
        second: at(labels, at(b.data.predicted, i)),
      })),
    };
  }
  const [x, y] = [a.data.predicted, b.data.predicted];
  const order = Array.from(x.keys()).sort((i, j) => apart(x, y, j) - apart(x, y, i) || i - j);
  const numbers = compareNumbers(Float64Array.from(x), Float64Array.from(y), null);
  return {
    agreement: null,
    rmsDifference: numbers.rmsDifference,
    confusions: null,
    mcnemar: null,
    rows: order.slice(0, MOST_ROWS).map((i) => ({
      row: at(rows, i) + 1,
      truth: shortNumber(at(a.data.truth, i), 5),
      first: shortNumber(at(x, i), 5),
      second: shortNumber(at(y, i), 5),
    })),
  };
}

const apart = (x: ArrayLike<number>, y: ArrayLike<number>, i: number): number =>
  Math.abs(at(x, i) - at(y, i));
