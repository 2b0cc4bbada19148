import { check, type Check } from '../../../foundation/check.js';
import { judgeAgainst, type AnswerKey } from '../../files/judge.js';
import type { Predictions } from '../../files/reader.js';
import { summariseFolds } from '../../../evaluation/comparison/over-folds.js';
import type { Typed } from '../../generators/typed.js';
import { standardErrors } from '../../marking/standard-errors.js';
import { figureOf, resampled, type Judged } from '../../../metrics/judged.js';
import type { Metric } from '../../../metrics/metric.js';
import { metricNamed } from '../../../metrics/registry.js';
import { at, indices, shortNumber } from '../../../foundation/numbers.js';
import { pearson } from '../../../data/profile/association.js';
import { EVIDENCE, WORK } from '../contract/credit.js';
import { refitCheck } from '../refits/refit.js';
import type { RowsKey } from '../assignments/key.js';

/** Standard errors by which the figure of random predictions hardly ever beats the baseline: 1 of 200 does. */
const BEYOND_CHANCE = 2.58;

interface Reported {
  readonly k: number;
  readonly metric: string;
  readonly mean: Typed | null;
  readonly se: Typed | null;
}

/** What was found of reported figures. */
export interface FigureFindings {
  readonly checks: readonly Check[];
  /** Conditions that are not kept, without which there are no marks. */
  readonly faults: readonly Check[];
}

/**
 * Whether what was reported follows from the predictions, and whether these are those of the model that is asked for.
 * Predictions that do not vary, or are no better than the baseline and not those of the model, are no work.
 */
export function figureChecks(
  assigned: Int32Array,
  predictions: Predictions,
  key: RowsKey,
  reported: Reported,
): FigureFindings {
  const { truth, refit } = key;
  if (!truth) return { checks: [], faults: [] };
  const metric = metricNamed(reported.metric);
  const rows = indices(assigned.length);
  const judged = judgeAgainst(truth, predictions, rows);
  const byFold = (all: Judged) =>
    summariseFolds(
      Array.from({ length: reported.k }, (_, fold) =>
        figureOf(
          metric,
          resampled(
            all,
            rows.filter((row) => assigned[row] === fold),
          ),
        ),
      ),
    );
  const over = byFold(judged);
  if (!varies(predictions))
    return {
      checks: [],
      faults: [check(WORK, 'fails', 'Every row has the same prediction: nothing was fitted.')],
    };
  if (over.mean === null)
    return {
      checks: [],
      faults: [
        check(WORK, 'fails', `${metric.name} cannot be computed from the predictions: ${over.reason}`),
      ],
    };
  const compared = refit ? [refitCheck(refit, metric, truth, predictions, assigned, reported.k)] : [];
  const isRefitted = compared.some(({ outcome }) => outcome === 'holds');
  const base = byFold(baselineOn(truth, assigned, reported.k, metric));
  const way = metric.better === 'higher' ? 1 : -1;
  const error = standardErrors(metric, judged, null, null).own;
  const better =
    base.mean === null || way * (over.mean - base.mean) > BEYOND_CHANCE * error || isRelated(judged);
  return {
    checks: [
      reportedCheck('mean', 'mean over the folds', over.mean, reported.mean, 0.0025),
      ...(over.se === null ? [] : [reportedCheck('se', 'standard error', over.se, reported.se, 0.01)]),
      ...compared,
      check(EVIDENCE, 'unsure', 'Figures recomputed from the predictions', {
        measured: `mean ${shortNumber(over.mean, 6)}, standard error ${over.se === null ? '–' : shortNumber(over.se, 6)}`,
      }),
      ...evidence(metric, over.mean, key.references),
    ],
    faults:
      better || isRefitted
        ? []
        : [
            check(WORK, 'fails', 'The predictions are no better than one constant prediction.', {
              measured: `${metric.name} ${shortNumber(over.mean, 4)}`,
              expected: `better than ${shortNumber(base.mean, 4)} by more than chance`,
            }),
          ],
  };
}

/**
 * Whether predictions correlate with the truth beyond chance: for classes the probability, or the label, of any of them.
 * A model that is too sure of itself has a worse log loss than its baseline, and is work all the same.
 */
function isRelated(judged: Judged): boolean {
  const n = judged.data.truth.length;
  const pairs =
    judged.kind === 'numbers'
      ? [[judged.data.predicted, judged.data.truth] as const]
      : judged.data.labels.map((_, label) => {
          const is = (codes: Int32Array) => Float64Array.from(codes, (code) => (code === label ? 1 : 0));
          const { predicted, truth, probabilities } = judged.data;
          return [probabilities ? at(probabilities, label) : is(predicted), is(truth)] as const;
        });
  // As many correlations as classes share what may be exceeded by chance (Bonferroni, roughly).
  const beyond = BEYOND_CHANCE + 0.3 * Math.log2(pairs.length);
  return pairs.some(([a, b]) => (pearson(a, b) ?? 0) * Math.sqrt(n) > beyond);
}

/** Whether rows have different predictions: different labels, or different probabilities or numbers. */
export const varies = (predictions: Predictions): boolean => {
  const columns: readonly (Float64Array | Int32Array)[] =
    predictions.kind === 'numbers'
      ? [predictions.predicted]
      : (predictions.probabilities ?? [predictions.predicted]);
  return columns.some((values) => values.some((value) => value !== values[0]));
};

/** What knows the training rows of each fold alone predicts: their most frequent class, their class shares, their mean or median. */
function baselineOn(key: AnswerKey, folds: Int32Array, k: number, metric: Metric): Judged {
  const rows = indices(folds.length);
  const { classes, values, labels } = key;
  if (values) {
    const predicted = new Float64Array(folds.length);
    for (let fold = 0; fold < k; fold++) {
      const training = values.filter((_, row) => folds[row] !== fold).sort();
      const middle = (at(training, (training.length - 1) >> 1) + at(training, training.length >> 1)) / 2;
      const mean = training.reduce((a, b) => a + b, 0) / training.length;
      const constant = ['mae', 'median_ae', 'mape', 'smape'].includes(metric.key) ? middle : mean;
      rows.forEach((row) => {
        if (folds[row] === fold) predicted[row] = constant;
      });
    }
    return judgeAgainst(key, { kind: 'numbers', predicted }, rows);
  }
  const predicted = new Int32Array(folds.length);
  const probabilities = labels.map(() => new Float64Array(folds.length));
  for (let fold = 0; fold < k; fold++) {
    const counts = labels.map(() => 0);
    let n = 0;
    classes?.forEach((code, row) => {
      if (folds[row] === fold) return;
      counts[code] = at(counts, code) + 1;
      n++;
    });
    const most = counts.indexOf(Math.max(...counts));
    rows.forEach((row) => {
      if (folds[row] !== fold) return;
      predicted[row] = most;
      counts.forEach((count, code) => (at(probabilities, code)[row] = count / n));
    });
  }
  return judgeAgainst(key, { kind: 'labels', predicted, probabilities, derived: false }, rows);
}

/** The coarsest step to which a figure may be reported: two decimals, three digits of a large one, two of a small one. */
function coarsestStep(value: number): number {
  const size = 10 ** Math.floor(Math.log10(Math.abs(value)));
  return Math.abs(value) >= 1 ? Math.max(0.01, size / 100) : Math.min(0.01, size / 10);
}

/**
 * Whether a reported figure is that of the predictions: as far as its digits say, or within a share of the figure, since
 * predictions may have been rounded when they were written.
 */
function reportedCheck(id: string, name: string, value: number, typed: Typed | null, share: number): Check {
  if (typed === null) return check(id, 'fails', `The ${name} is missing`);
  const step = value === 0 ? 0.01 : coarsestStep(value);
  const isCoarse = typed.unit > step * (1 + 1e-9);
  const within = Math.max(Math.min(typed.unit, step) / 2, share * Math.abs(value));
  const isExact = Math.abs(typed.value - value) <= 1e-9 * Math.abs(value);
  const holds = isExact || (!isCoarse && Math.abs(typed.value - value) <= within * (1 + 1e-9));
  return check(
    id,
    holds ? 'holds' : 'fails',
    holds ? `The ${name} is that of the predictions` : `The ${name} is not that of the predictions`,
    {
      measured: String(typed.value),
      expected: isCoarse
        ? `a figure to ${shortNumber(step)} or finer`
        : `that of the predictions, to the digits typed or within ${shortNumber(100 * share)} %`,
    },
  );
}

/** For staff: the figure beside the best reference run. It is no proof, since runs may be weak and models good. */
function evidence(metric: Metric, mean: number, references: RowsKey['references']): Check[] {
  if (references.length === 0) return [];
  const way = metric.better === 'higher' ? 1 : -1;
  const best = references.reduce((so, one) => (way * one.mean > way * so.mean ? one : so));
  return [
    check(EVIDENCE, 'unsure', 'Out-of-fold figures beside the best reference run', {
      measured: `${metric.name} ${shortNumber(mean, 4)}`,
      expected: `${shortNumber(best.mean, 4)}, standard error ${shortNumber(best.se, 2)}`,
    }),
  ];
}
