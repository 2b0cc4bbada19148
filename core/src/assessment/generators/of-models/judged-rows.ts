import { SieveError } from '../../../foundation/errors.js';
import { at } from '../../../foundation/numbers.js';
import { figureOf } from '../../../metrics/judged.js';
import type { Figure, Metric } from '../../../metrics/metric.js';
import { metricNamed } from '../../../metrics/registry.js';
import type { ChoiceParameter } from '../../../data/sentence/parameter.js';
import type { Task } from '../../../data/table/roles.js';
import { trialMetrics } from '../../../evaluation/trials/metrics.js';
import { fitModel, judgedBy, predictRows, type FitRequest } from '../../../models/fitted.js';
import { targetRows } from '../../../models/prepared/target.js';

/** Metrics of every task. */
const METRICS = (['binary', 'multiclass', 'regression'] as const)
  .flatMap(trialMetrics)
  .filter((metric, i, all) => all.indexOf(metric) === i);

export const METRIC = {
  type: 'choice',
  label: 'metric',
  choices: METRICS.map(({ key, name }) => ({ value: key, text: name })),
} as const satisfies ChoiceParameter;

/** @throws SieveError `no-figure` where it does not judge the task */
export function metricFor(key: string, task: Task): Metric {
  const metric = metricNamed(key);
  if (!metric.tasks.includes(task))
    throw new SieveError('no-figure', `${metric.name} does not judge this task.`, { field: 'metric' });
  return metric;
}

/** A model fitted to some rows, judged on others. */
export function scoreOn(request: FitRequest, test: Int32Array, metric: Metric): Figure {
  const fitted = fitModel(request);
  return figureOf(
    metric,
    judgedBy(
      targetRows(request.target, test),
      predictRows(fitted, request.table, test),
      fitted.recipe.features.length,
    ),
  );
}

/** Folds that any program can make: the first row is in the first fold, the next in the second, and so on over and over. */
export const foldsByPlace = (rows: Int32Array, k: number) =>
  Array.from({ length: k }, (_, fold) => ({
    training: rows.filter((_row, place) => place % k !== fold),
    test: rows.filter((_row, place) => place % k === fold),
  }));

/** How a text says those folds. */
export const foldWords = (k: number): string =>
  `${k} folds by the place of a row in the file: row 1 is in fold 1, row 2 in fold 2, row ${k + 1} in fold 1 again`;

/**
 * A metric in each fold.
 *
 * @throws SieveError `no-figure` for a fold in which it is undefined
 */
export const scoresOverFolds = (request: FitRequest, k: number, metric: Metric): number[] =>
  foldsByPlace(request.rows, k).map(({ training, test }, fold) => {
    const { value, ...rest } = scoreOn({ ...request, rows: training }, test, metric);
    if (value === null)
      throw new SieveError(
        'no-figure',
        `${metric.name} is undefined in fold ${fold + 1}: ${'reason' in rest ? rest.reason : ''}.`,
        { field: 'metric' },
      );
    return value;
  });

/** Mean, standard deviation and standard error of scores. */
export function spreadOf(scores: readonly number[]) {
  const n = scores.length;
  const mean = scores.reduce((a, b) => a + b, 0) / n;
  const sd = Math.sqrt(scores.reduce((sum, score) => sum + (score - mean) ** 2, 0) / (n - 1));
  return { mean, sd, se: sd / Math.sqrt(n) };
}

/** The place of the best score; of equal ones the first. */
export const bestPlace = (scores: readonly number[], { better }: Metric): number =>
  scores.reduce(
    (best, score, place) =>
      (better === 'higher' ? score > at(scores, best) : score < at(scores, best)) ? place : best,
    0,
  );
