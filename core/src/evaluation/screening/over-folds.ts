import { figureOf } from '../../metrics/judged.js';
import type { Metric } from '../../metrics/metric.js';
import { fitModel, judgedBy, predictRows, type FitRequest } from '../../models/fitted.js';
import { targetRows } from '../../models/prepared/target.js';
import { summariseFolds } from '../comparison/over-folds.js';

/** A fold: its training rows and those that it holds back. */
export interface Fold {
  readonly training: Int32Array;
  readonly test: Int32Array;
}

/** A metric over the folds; none, with the reason, where it is undefined. */
export interface ScreenedFigure {
  readonly mean: number | null;
  readonly se: number | null;
  readonly reason: string | null;
}

/**
 * Judges a model over folds, in each of which it has features of its own.
 *
 * @param featuresOf the features by fold
 * @throws SieveError as `fitModel` throws it
 */
export function figureOverFolds(
  request: Omit<FitRequest, 'rows'>,
  folds: readonly Fold[],
  featuresOf: (fold: number) => readonly string[],
  metric: Metric,
): ScreenedFigure {
  const { table, target } = request;
  const figures = folds.map(({ training, test }, fold) => {
    const fitted = fitModel({ ...request, features: featuresOf(fold), rows: training });
    return figureOf(metric, judgedBy(targetRows(target, test), predictRows(fitted, table, test)));
  });
  const summary = summariseFolds(figures);
  return summary.mean === null
    ? { mean: null, se: null, reason: summary.reason }
    : { mean: summary.mean, se: summary.se, reason: null };
}
