import { testRows } from '@modest-sieve/core/splitting';
import type { Plan } from '@modest-sieve/core/data';
import { indices, SieveError } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { fitModel, modelFamilyOf, sizeOf, writeFitted, type ModelSize } from '@modest-sieve/core/models';
import {
  chooseAtFullSize,
  choosingMetrics,
  curveHyperparameter,
  drawSettings,
  halvingRounds,
  measureFold,
  measureSetting,
  predictFold,
  settleSettings,
  summariseSetting,
  TRAINING_SHARE,
  measuredMetrics,
  usualMetrics,
  type Choice,
  type Figures,
  type FoldFigures,
  type Luck,
  type MeasuredFold,
  type Setting,
  type SettingSummary,
  type Varied,
} from '@modest-sieve/core/evaluation';
import type { FittedView } from '../api/api.js';
import { viewOf } from './fitted-view.js';
import { luckAmong } from './luck-among.js';
import type { Settled } from './trial.entity.js';
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

/** A setting of a trial, with its figures in every fold of every repeat. */
export interface SettingFolds {
  readonly values: Setting;
  readonly folds: readonly FoldFigures[];
}

/** One setting of a search over all folds. */
export interface SearchedSetting {
  readonly folds: readonly FoldFigures[];
  readonly warnings: readonly string[];
  /** Of the rows of the first repeat; null on a share of the training rows. */
  readonly outOfFold: OutOfFold | null;
}

/** Predictions of a search that are kept, as numbers: 160 MB. */
const MOST_KEPT = 2e7;

/** Models that are fitted and judged over folds. */
export const TRIAL_TASKS = tasks('trials', {
  /** The settings of a curve, where the data suggest them, how many folds there are, and what a search is to try. */
  settleTrial(material: TrialMaterial): Settled {
    const { request, makeFolds: make } = opened(material);
    const folds = make();
    const { plan } = material;
    const vary = settleSettings(request, plan);
    const settled = { vary, repeats: folds.tests.length, count: folds.count };
    if (!plan.search) return settled;
    const { count, method } = plan.search;
    const begun = begunWith(plan.model, vary);
    const drawn = drawSettings(modelFamilyOf(plan.model), vary, begun, count, plan.seed);
    const fewest = Math.min(...Array.from(indices(folds.count), (fold) => folds.training(0, fold).length));
    const rounds =
      method === 'halving' ? halvingRounds(drawn.length, fewest) : [{ share: 100, settings: drawn.length }];
    const columns = request.target.kind === 'classes' ? request.target.labels.length : 1;
    const last = rounds.at(-1)?.settings ?? 0;
    return {
      ...settled,
      search: { drawn, rounds, keeps: request.rows.length * columns * last <= MOST_KEPT },
    };
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
      metrics: measuredMetrics(
        material.roles.task,
        vary.reduce((product, { settings }) => product * settings.length, 1),
        material.plan.metric,
      ),
    });
  },

  /** One setting of a search, over all folds of all repeats. */
  measureSearched({
    values,
    share,
    keeps,
    ...material
  }: TrialMaterial & { values: Setting; share: number; keeps: boolean }): SearchedSetting {
    const { request, makeFolds: make } = opened(material);
    const model = { ...request.model, values: { ...request.model.values, ...values } };
    const folds = make();
    const { roles, plan } = material;
    const metrics = measuredMetrics(roles.task, plan.search?.count ?? 1, plan.metric);
    const measured = folds.tests.flatMap((_, repeat) =>
      Array.from({ length: folds.count }, (__, fold) => {
        const test = testRows(folds, repeat, fold);
        const training = folds.training(repeat, fold);
        return { rows: test, ...measureSetting({ ...request, model, training, test, metrics }, share) };
      }),
    );
    return {
      folds: measured.map(({ figures }) => figures),
      warnings: [...new Set(measured.flatMap(({ warnings }) => warnings))],
      outOfFold: keeps ? joined(measured.slice(0, folds.count)) : null,
    };
  },

  /** How much of the best setting of a search is luck, by each metric. */
  searchLuck({ searched, ...material }: TrialMaterial & { searched: readonly OutOfFold[] }) {
    const { roles, plan } = material;
    const luck = luckAmong(material, searched);
    return Object.fromEntries(
      usualMetrics(roles.task, plan.metric).map((metric): [string, Luck | null] => [
        metric.key,
        luck(metric),
      ]),
    );
  },

  /** How much of the best of many runs is luck. */
  runsLuck({
    searched,
    metric: key,
    ...material
  }: TrialMaterial & { searched: readonly OutOfFold[]; metric: string }) {
    const metric = choosingMetrics(material.roles.task).find((one) => one.key === key);
    if (metric) return { luck: luckAmong(material, searched)(metric) };
    throw new SieveError('trial', `${key} does not judge a trial of this task.`, { field: 'metric' });
  },

  /** Chooses a setting by the folds, fits it to all training rows, and predicts every row out of fold. */
  concludeTrial({
    vary,
    measured,
    warnings,
    ...material
  }: TrialMaterial & {
    vary: readonly Varied[];
    measured: readonly SettingFolds[];
    warnings: readonly string[];
  }): ConcludedTrial {
    const { plan, roles } = material;
    const { table, request, makeFolds: make } = opened(material);
    const metrics = measuredMetrics(roles.task, measured.length, plan.metric);
    const settings = measured.map(({ values, folds }) => summariseSetting(values, folds, metrics));
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
      warnings: [...new Set([...fitted.warnings, ...warnings])],
      fitted: writeFitted(fitted),
      view: viewOf(fitted, table, roles, request.rows),
      outOfFold,
    };
  },
});

/** What a model is asked for with, of the settings that a search varies. */
const begunWith = ({ values }: Plan, vary: readonly Varied[]): Setting =>
  Object.fromEntries(vary.map(({ key }) => [key, Number(values[key])]));

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
