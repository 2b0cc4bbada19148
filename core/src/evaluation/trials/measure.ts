import { figureOf, type Judged } from '../../metrics/judged.js';
import type { Metric } from '../../metrics/metric.js';
import { at } from '../../foundation/numbers.js';
import { seededRandom, shuffle } from '../../foundation/random/random.js';
import { judgedBy, readyFor, sampleOf, type FitRequest, type Ready } from '../../models/fitted.js';
import type { Sample } from '../../models/contract/sample.js';
import { predictState, sizeOf } from '../../models/predicted.js';
import { targetRows } from '../../models/prepared/target.js';
import { checkModel } from '../../models/registry.js';
import type { ModelState } from '../../models/contract/state.js';
import { trialMetrics, type Figures } from './metrics.js';
import { curveHyperparameter, refuseMany, settingsOf, TRAINING_SHARE, type Varied } from './plan.js';

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
}

export interface MeasuredFold {
  /** One for each setting. */
  readonly figures: readonly FoldFigures[];
  /** Of all settings, each once. */
  readonly warnings: readonly string[];
}

const figuresOf = (judged: Judged, metrics: readonly Metric[]): Figures =>
  Object.fromEntries(metrics.map((metric) => [metric.key, figureOf(metric, judged)]));

/**
 * Fits every setting to the training rows of a fold and judges it on them and on the held-out rows. Preparation is
 * fitted to the training rows alone.
 *
 * @throws SieveError as `fitModel` throws it
 */
export function measureFold(request: FoldRequest): MeasuredFold {
  const { table, target, task, training: rows, test } = request;
  const shares = request.vary.find(({ key }) => key === TRAINING_SHARE);
  if (shares) return measureShares(request, shares.settings);
  const metrics = trialMetrics(task);
  const ready = readyFor({ ...request, rows });
  const testSample = sampleOf(ready.recipe, table, test);
  const testTarget = targetRows(target, test);
  const warnings = new Set(ready.recipe.warnings);
  const states = fitSettings(request, ready, (warning) => warnings.add(warning));
  const judge = (state: ModelState, sample: Sample, of: typeof testTarget) =>
    figuresOf(judgedBy(of, predictState(state, sample)), metrics);
  return {
    figures: states.map((state) => ({
      train: judge(state, ready.training, ready.training.target),
      test: judge(state, testSample, testTarget),
      size: sizeOf({ state, recipe: ready.recipe })?.count ?? null,
    })),
    warnings: [...warnings],
  };
}

/** Measures a fold on ever more of its training rows: each share holds the one before. */
function measureShares(request: FoldRequest, shares: readonly number[]): MeasuredFold {
  const order = shuffle(request.training.slice(), seededRandom(request.seed, 'training-share'));
  const vary = request.vary.filter(({ key }) => key !== TRAINING_SHARE);
  const parts = shares.map((share) => {
    const count = Math.max(1, Math.round((order.length * share) / 100));
    return measureFold({ ...request, vary, training: order.slice(0, count).sort() });
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
export function settleSettings(request: FitRequest, vary: readonly Varied[]): Varied[] {
  const kind = checkModel(request.model, request.task, request.table.columns);
  const settled = vary.map(({ key, settings }) => {
    if (settings.length > 0) return { key, settings };
    const hyperparameter = curveHyperparameter(kind, key);
    if (hyperparameter.settings !== 'path') return { key, settings: hyperparameter.settings };
    return { key, settings: kind.path?.(readyFor(request).training, request.model.values) ?? [] };
  });
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
