import { figureOf, type Judged } from '../../metrics/judged.js';
import type { Metric } from '../../metrics/metric.js';
import { at } from '../../foundation/numbers.js';
import { seededRandom, shuffle } from '../../foundation/random/random.js';
import { judgedBy, readyFor, sampleOf, type FitRequest, type Ready } from '../../models/fitted.js';
import { predictState, sizeOf } from '../../models/predicted.js';
import { targetRows } from '../../models/prepared/target.js';
import { checkModel } from '../../models/registry.js';
import type { ModelState, Predicted } from '../../models/contract/state.js';
import { trialMetrics, type Figures } from './metrics.js';
import {
  curveHyperparameter,
  refuseMany,
  settingsOf,
  TRAINING_SHARE,
  type TrialPlan,
  type Varied,
} from './plan.js';

/** Figures of one model in one fold. */
export interface FoldFigures {
  /** On the training rows, and on those held out. */
  readonly train: Figures;
  readonly test: Figures;
  /** Coefficients, leaves …; null where the family is not counted. */
  readonly size: number | null;
}

/** A fold that is to be measured. */
export interface FoldRequest extends Omit<FitRequest, 'rows'> {
  readonly training: Int32Array;
  readonly test: Int32Array;
  /** Settled: every setting has its values. */
  readonly vary: readonly Varied[];
  /** Those that are measured; all of the task where left out. */
  readonly metrics?: readonly Metric[];
}

export interface MeasuredFold {
  /** One for each setting. */
  readonly figures: readonly FoldFigures[];
  /** Of all settings, each once. */
  readonly warnings: readonly string[];
}

const figuresOf = (judged: Judged, metrics: readonly Metric[]): Figures =>
  Object.fromEntries(metrics.map((metric) => [metric.key, figureOf(metric, judged)]));

/** Judges fitted models on the rows that they were fitted to and on others, of which the predictions are told. */
function judgeOn({ table, target, task, test, metrics = trialMetrics(task) }: FoldRequest, ready: Ready) {
  const sample = sampleOf(ready.recipe, table, test);
  const truth = targetRows(target, test);
  return (state: ModelState): { figures: FoldFigures; predicted: Predicted } => {
    const predicted = predictState(state, sample);
    const training = judgedBy(ready.training.target, predictState(state, ready.training));
    return {
      figures: {
        train: figuresOf(training, metrics),
        test: figuresOf(judgedBy(truth, predicted), metrics),
        size: sizeOf({ state, recipe: ready.recipe })?.count ?? null,
      },
      predicted,
    };
  };
}

/** A share of training rows, in percent: each share holds those of the smaller ones. */
function shareOf(training: Int32Array, share: number, seed: number): Int32Array {
  const order = shuffle(training.slice(), seededRandom(seed, 'training-share'));
  return order.slice(0, Math.max(1, Math.round((order.length * share) / 100))).sort();
}

/**
 * Fits every setting to the training rows of a fold and judges it on them and on the held-out rows. Preparation is
 * fitted to the training rows alone.
 *
 * @throws SieveError as `fitModel` throws it
 */
export function measureFold(request: FoldRequest): MeasuredFold {
  const { training: rows } = request;
  const shares = request.vary.find(({ key }) => key === TRAINING_SHARE);
  if (shares) return measureShares(request, shares.settings);
  const ready = readyFor({ ...request, rows });
  const warnings = new Set(ready.recipe.warnings);
  const states = fitSettings(request, ready, (warning) => warnings.add(warning));
  const judge = judgeOn(request, ready);
  return { figures: states.map((state) => judge(state).figures), warnings: [...warnings] };
}

/** One setting in a fold: its figures, and what it predicts of the held-out rows. */
export interface MeasuredSetting {
  readonly figures: FoldFigures;
  readonly predicted: Predicted;
  readonly warnings: readonly string[];
}

/**
 * Fits one setting to a share of the training rows of a fold and judges it.
 *
 * @param share in percent
 * @throws SieveError as `fitModel` throws it
 */
export function measureSetting(request: Omit<FoldRequest, 'vary'>, share: number): MeasuredSetting {
  const rows = share < 100 ? shareOf(request.training, share, request.seed) : request.training;
  const asked = { ...request, vary: [] };
  const ready = readyFor({ ...request, rows });
  const warnings = new Set(ready.recipe.warnings);
  const states = fitSettings(asked, ready, (warning) => warnings.add(warning));
  return { ...judgeOn(asked, ready)(at(states, 0)), warnings: [...warnings] };
}

/** Measures a fold on ever more of its training rows: each share holds the one before. */
function measureShares(request: FoldRequest, shares: readonly number[]): MeasuredFold {
  const vary = request.vary.filter(({ key }) => key !== TRAINING_SHARE);
  const parts = shares.map((share) => {
    return measureFold({ ...request, vary, training: shareOf(request.training, share, request.seed) });
  });
  // Settings run in the order of `vary`, the last one fastest.
  const inner = settingsOf(vary).length;
  const isFirst = request.vary[0]?.key === TRAINING_SHARE;
  const figures = Array.from({ length: inner * shares.length }, (_, i) => {
    const [share, setting] = isFirst
      ? [Math.floor(i / inner), i % inner]
      : [i % shares.length, Math.floor(i / shares.length)];
    return at(at(parts, share).figures, setting);
  });
  return { figures, warnings: [...new Set(parts.flatMap(({ warnings }) => warnings))] };
}

/** The models of every setting, together where the family has a cheaper way along the last one. */
function fitSettings(
  { table, model, task, vary }: Pick<FoldRequest, 'table' | 'model' | 'task' | 'vary'>,
  { training }: Ready,
  warn: (warning: string) => void,
): ModelState[] {
  const kind = checkModel(model, task, table.columns);
  const last = vary.at(-1);
  const fitOne = (values: typeof model.values): ModelState => {
    const { state, warnings } = kind.fit(training, values);
    warnings.forEach(warn);
    return state;
  };
  if (!last) return [fitOne(model.values)];
  return settingsOf(vary.slice(0, -1)).flatMap((outer) => {
    const values = { ...model.values, ...outer };
    return (
      kind.fitPath?.(training, values, last.key, last.settings) ??
      last.settings.map((setting) => fitOne({ ...values, [last.key]: setting }))
    );
  });
}

/**
 * Gives every varied setting its values: those that are named, those of the family, or those that all training rows
 * suggest (the same for every fold, so that a curve can be drawn). Of a grid the setting that a family can fit together
 * comes last, where it runs fastest.
 *
 * @throws SieveError `trial` where there are too many, and as `fitModel` throws it
 */
export function settleSettings(
  request: FitRequest,
  { vary, search }: Pick<TrialPlan, 'vary' | 'search'>,
): Varied[] {
  const kind = checkModel(request.model, request.task, request.table.columns);
  const settled = vary.map(({ key, settings }) => {
    if (settings.length > 0) return { key, settings };
    const hyperparameter = curveHyperparameter(kind, key);
    if (hyperparameter.settings !== 'path') return { key, settings: hyperparameter.settings };
    return { key, settings: kind.path?.(readyFor(request).training, request.model.values) ?? [] };
  });
  if (search) return settled;
  refuseMany(settled);
  const isBatched = ({ key }: Varied) => Number(curveHyperparameter(kind, key).batched === true);
  return settled.sort((a, b) => isBatched(a) - isBatched(b));
}

/** Out-of-fold predictions of one model, of every row that is tested. */
export function predictFold(request: Omit<FoldRequest, 'vary'>) {
  const { table, test, training: rows } = request;
  const ready = readyFor({ ...request, rows });
  const [state] = fitSettings({ ...request, vary: [] }, ready, () => undefined);
  if (!state) throw new RangeError('one model was asked for');
  return predictState(state, sampleOf(ready.recipe, table, test));
}
