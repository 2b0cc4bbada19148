import { testRows } from '@modest-sieve/core/splitting';
import { metricNamed } from '@modest-sieve/core/metrics';
import { fitModel, modelFamilyOf, sizeOf, writeFitted, type ModelSize } from '@modest-sieve/core/models';
import {
  chooseAtFullSize,
  curveHyperparameter,
  measureFold,
  predictFold,
  settingsOf,
  settleSettings,
  summariseSetting,
  TRAINING_SHARE,
  trialMetrics,
  type Choice,
  type Figures,
  type MeasuredFold,
  type SettingSummary,
  type Varied,
} from '@modest-sieve/core/evaluation';
import type { FittedView } from '../api/api.js';
import { viewOf } from './fitted-view.js';
import { figuresOn, opened, rowsOf, type OutOfFold, type TrialMaterial } from './trial-material.js';
import { tasks } from '../platform/compute/task.js';

export interface ConcludedTrial {
  readonly choices: Record<string, Choice | null>;
  readonly settings: SettingSummary[];
  readonly place: number;
  readonly size: ModelSize | null;
  readonly rows: number;
  readonly training: Figures;
  readonly validation: Figures | null;
  readonly warnings: string[];
  /** As JSON. */
  readonly fitted: string;
  readonly view: FittedView;
  readonly outOfFold: OutOfFold;
}

/** Models that are fitted and judged over folds. */
export const TRIAL_TASKS = tasks('trials', {
  /** The settings of a curve, where the data suggest them, and how many folds there are. */
  settleTrial(material: TrialMaterial): { vary: Varied[]; repeats: number; count: number } {
    const { request, makeFolds: folds } = opened(material);
    const { tests, count } = folds();
    return { vary: settleSettings(request, material.plan.vary), repeats: tests.length, count };
  },

  measureTrial({
    vary,
    repeat,
    fold,
    ...material
  }: TrialMaterial & { vary: readonly Varied[]; repeat: number; fold: number }): MeasuredFold {
    const { request, makeFolds: make } = opened(material);
    const folds = make();
    return measureFold({
      ...request,
      training: folds.training(repeat, fold),
      test: testRows(folds, repeat, fold),
      vary,
    });
  },

  /** Chooses a setting by the folds, fits it to all training rows, and predicts every row out of fold. */
  concludeTrial({
    vary,
    measured,
    ...material
  }: TrialMaterial & {
    vary: readonly Varied[];
    measured: readonly MeasuredFold[];
  }): ConcludedTrial {
    const { plan, roles } = material;
    const { table, request, makeFolds: make } = opened(material);
    const metrics = trialMetrics(roles.task);
    const settings = settingsOf(vary).map((values, s) =>
      summariseSetting(
        values,
        measured.flatMap(({ figures }) => figures.slice(s, s + 1)),
        metrics,
      ),
    );
    const kind = modelFamilyOf(plan.model);
    const hyperparameters = vary.map(({ key }) => curveHyperparameter(kind, key));
    const folds = make();
    const choices = Object.fromEntries(
      metrics.map((metric): [string, Choice | null] => [
        metric.key,
        chooseAtFullSize(settings, metric, hyperparameters, folds.count),
      ]),
    );
    const place = choices[metricNamed(plan.metric).key]?.[plan.choose] ?? 0;
    // A share of the training rows is no setting of a model: the chosen one is trained on all of them.
    const values = Object.entries(settings[place]?.values ?? {}).filter(([key]) => key !== TRAINING_SHARE);
    const model = { ...plan.model, values: { ...plan.model.values, ...Object.fromEntries(values) } };
    const chosen = { ...request, model };
    const fitted = fitModel(chosen);
    const validation = rowsOf(material, 'validation', request.rows);
    const outOfFold = joined(
      Array.from({ length: folds.count }, (_, fold) => {
        const test = testRows(folds, 0, fold);
        const training = folds.training(0, fold);
        return { rows: test, predicted: predictFold({ ...chosen, training, test }) };
      }),
    );
    return {
      choices,
      settings,
      place,
      size: sizeOf(fitted),
      rows: request.rows.length,
      training: figuresOn(fitted, table, roles, request.rows),
      validation: validation.length > 0 ? figuresOn(fitted, table, roles, validation) : null,
      warnings: [...new Set([...fitted.warnings, ...measured.flatMap(({ warnings }) => warnings)])],
      fitted: writeFitted(fitted),
      view: viewOf(fitted, table, roles, request.rows),
      outOfFold,
    };
  },
});

/** Predictions of all folds as those of one set of rows, ascending. */
function joined(folds: readonly OutOfFold[]): OutOfFold {
  const places = folds.flatMap(({ rows }, fold) => Array.from(rows, (row, i) => ({ row, fold, i })));
  places.sort((a, b) => a.row - b.row);
  const width = folds[0]?.predicted.length ?? 0;
  return {
    rows: Int32Array.from(places, ({ row }) => row),
    predicted: Array.from({ length: width }, (_, label) =>
      Float64Array.from(places, ({ fold, i }) => folds[fold]?.predicted[label]?.[i] ?? 0),
    ),
  };
}
