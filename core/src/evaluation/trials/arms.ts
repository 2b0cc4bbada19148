import { SieveError } from '../../foundation/errors.js';
import { summariseFolds } from '../comparison/over-folds.js';
import { figureOf } from '../../metrics/judged.js';
import type { Figure, Metric } from '../../metrics/metric.js';
import { judgedBy, predictRows, fitModel, type FitRequest } from '../../models/fitted.js';
import { targetRows } from '../../models/prepared/target.js';
import { labelsOf } from '../../data/table/labels.js';
import { columnNamed } from '../../data/table/table.js';

/** A subgroup that is weighted while a model learns. */
export interface Emphasis {
  readonly column: string;
  readonly value: string;
  /** How much a row of the subgroup counts beside 1 for the others. */
  readonly weights: readonly number[];
}

export interface ArmFigure {
  readonly mean: number | null;
  readonly se: number | null;
}

/** One way of treating a subgroup, and how the model does on it and on the rest. */
export interface Arm {
  readonly kind: 'unweighted' | 'weighted' | 'subgroup only';
  /** Null for the subgroup alone. */
  readonly weight: number | null;
  readonly subgroup: ArmFigure;
  readonly rest: ArmFigure;
}

/** Rows of a fold. */
export interface ArmFold {
  readonly training: Int32Array;
  readonly test: Int32Array;
}

/**
 * Emphasis on a subgroup in three arms: all rows alike, rows of the subgroup counting more, the subgroup alone; each
 * judged over the folds on rows of the subgroup and on the rest.
 *
 * @throws SieveError `emphasis` where the subgroup has no row, or a fold none of it to train on
 */
export function compareArms(
  request: Omit<FitRequest, 'rows'>,
  folds: readonly ArmFold[],
  { column, value, weights }: Emphasis,
  metric: Metric,
): Arm[] {
  const { labels, codes } = labelsOf(columnNamed(request.table, column));
  const code = labels.indexOf(value);
  if (code < 0) throw new SieveError('emphasis', `No row has ${column} ${value}.`, { field: 'value' });
  const isOne = (row: number) => codes[row] === code;
  if (folds.some(({ training }) => !training.some(isOne)))
    throw new SieveError(
      'emphasis',
      `In a fold no training row has ${column} ${value}: it cannot be weighted.`,
      {
        field: 'value',
      },
    );
  const arm = (kind: Arm['kind'], weight: number | null): Arm => {
    const own = new Float64Array(request.table.rowCount);
    for (let row = 0; row < own.length; row++)
      own[row] = (isOne(row) ? (weight ?? 1) : 1) * (request.weights ? (request.weights[row] ?? 0) : 1);
    const measured = folds.map(({ training, test }) => {
      const rows = kind === 'subgroup only' ? training.filter(isOne) : training;
      const fitted = fitModel({ ...request, rows, weights: own });
      const figureOn = (on: Int32Array): Figure =>
        on.length === 0
          ? { value: null, reason: 'the fold tests no such row' }
          : figureOf(
              metric,
              judgedBy(targetRows(request.target, on), predictRows(fitted, request.table, on)),
            );
      return { subgroup: figureOn(test.filter(isOne)), rest: figureOn(test.filter((row) => !isOne(row))) };
    });
    // A fold without a row of the subgroup, or without a class of it, says nothing of it.
    const summary = (figures: readonly Figure[]): ArmFigure => {
      const known = figures.filter((figure) => figure.value !== null);
      const over = summariseFolds(known);
      return over.mean === null ? { mean: null, se: null } : { mean: over.mean, se: over.se };
    };
    return {
      kind,
      weight,
      subgroup: summary(measured.map((one) => one.subgroup)),
      rest: summary(measured.map((one) => one.rest)),
    };
  };
  return [
    arm('unweighted', 1),
    ...weights.map((weight) => arm('weighted', weight)),
    arm('subgroup only', null),
  ];
}
