import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { makeFolds, testRows } from '../../splitting/folds/folds.js';
import type { Metric } from '../../metrics/metric.js';
import type { FitRequest } from '../../models/fitted.js';
import { figureOverFolds, type Fold, type ScreenedFigure } from './over-folds.js';

/** Begin with no feature and add the one that brings most; or begin with all and leave out the one that costs least. */
export type SelectionWay = 'forward' | 'backward';
export const SELECTION_WAYS: readonly SelectionWay[] = ['forward', 'backward'];

/** Folds inside the training rows, by which a step is chosen. */
const INNER_FOLDS = 3;
/** Models that one selection may fit. */
const MOST_SELECTION_FITS = 4000;

/** Folds inside the training rows keep the shares of classes, and rows of one group together. */
const METHODS = {
  classes: { alone: 'stratified', grouped: 'stratified-grouped' },
  numbers: { alone: 'k-fold', grouped: 'grouped' },
} as const;

/** A selection down, or up, to so many features. */
export interface SelectionStep {
  readonly count: number;
  /** Those that the steps on all rows of the folds arrive at. */
  readonly features: readonly string[];
  /** The steps made within each fold, by its training rows alone. */
  readonly inside: ScreenedFigure;
  /** The features of all rows, which have seen the rows that judge them. */
  readonly outside: ScreenedFigure;
}

export interface Selection {
  /** The fewest features first. */
  readonly steps: readonly SelectionStep[];
  /** The number with the best figure inside the folds, and the smallest within one standard error of it; null where none has a figure. */
  readonly best: number | null;
  readonly simplest: number | null;
  /** In how many folds each feature is among that smallest number, the most frequent first. */
  readonly kept: readonly { readonly column: string; readonly folds: number }[];
  readonly folds: number;
}

/** How many models a selection fits: the steps of every fold and of all rows, then each size over the folds in both ways. */
export function selectionFits(features: number, folds: number, most: number, way: SelectionWay): number {
  let tried = 0;
  if (way === 'forward') for (let size = 0; size < most; size++) tried += features - size;
  else for (let size = features; size > 1; size--) tried += size;
  return tried * INNER_FOLDS * (folds + 1) + 2 * folds * (way === 'forward' ? most : features);
}

/**
 * Chooses features step by step for a model, forward or backward, within each fold and once by all rows (Kohavi and John,
 * Wrappers for feature subset selection, Artificial Intelligence 97, 1997; why inside: Hastie, Tibshirani and Friedman, 2009,
 * 7.10.2). Each step takes what has the best mean over three folds inside the training rows; of equal ones the earlier
 * feature.
 *
 * @param most how many features a forward selection goes up to
 * @throws SieveError `selection` for too many fits or a single feature, and as `fitModel` throws it
 */
export function selectFeatures(
  request: Omit<FitRequest, 'rows'>,
  folds: readonly Fold[],
  { way, most }: { readonly way: SelectionWay; readonly most: number },
  metric: Metric,
): Selection {
  const { features } = request;
  if (features.length < 2)
    throw new SieveError('selection', 'A selection needs at least two features.', { field: 'features' });
  const up = Math.min(most, features.length);
  const fits = selectionFits(features.length, folds.length, up, way);
  if (fits > MOST_SELECTION_FITS)
    throw new SieveError(
      'selection',
      `This selection would fit ${fits} models, more than ${MOST_SELECTION_FITS}: leave out features, or go up to fewer.`,
      { field: 'most' },
    );
  const rows = Int32Array.from(new Set(folds.flatMap(({ test }) => [...test]))).sort();
  const stepsOn = (on: Int32Array) =>
    way === 'forward' ? forward(request, on, up, metric) : backward(request, on, metric);
  const all = stepsOn(rows);
  const own = folds.map(({ training }) => stepsOn(training));
  const figures = (chosen: (fold: number) => readonly string[]) =>
    figureOverFolds(request, folds, chosen, metric);
  const steps = all.map((chosen, step): SelectionStep => ({
    count: chosen.length,
    features: chosen,
    inside: figures((fold) => at(at(own, fold), step)),
    outside: figures(() => chosen),
  }));
  const { best, simplest } = nearBest(steps, metric);
  const place = steps.findIndex(({ count }) => count === simplest);
  const counts = new Map<string, number>();
  if (place >= 0)
    for (const one of own) for (const name of at(one, place)) counts.set(name, (counts.get(name) ?? 0) + 1);
  const kept = [...counts].map(([column, of]) => ({ column, folds: of }));
  return { steps, best, simplest, kept: kept.sort((a, b) => b.folds - a.folds), folds: folds.length };
}

function nearBest(steps: readonly SelectionStep[], { better }: Metric) {
  const sign = better === 'higher' ? 1 : -1;
  const known = steps.filter(({ inside }) => inside.mean !== null);
  const worth = ({ inside }: SelectionStep) => sign * (inside.mean ?? NaN);
  const best = known.reduce<SelectionStep | null>(
    (so, step) => (so && worth(so) >= worth(step) ? so : step),
    null,
  );
  if (!best) return { best: null, simplest: null };
  const near = known.find((step) => worth(step) >= worth(best) - (best.inside.se ?? 0));
  return { best: best.count, simplest: (near ?? best).count };
}

/** How well features do over folds inside the rows; the larger the better, −∞ where that is undefined. */
function worthOn(request: Omit<FitRequest, 'rows'>, rows: Int32Array, metric: Metric) {
  const { table, target, targetName, group, seed } = request;
  const usable = new Uint8Array(table.rowCount);
  for (const row of rows) usable[row] = 1;
  const isOfClasses = target.kind === 'classes';
  const method = METHODS[isOfClasses ? 'classes' : 'numbers'][group === null ? 'alone' : 'grouped'];
  const settings = { ...(isOfClasses ? { stratify: targetName } : {}), ...(group === null ? {} : { group }) };
  const folds = makeFolds(table, { method, k: INNER_FOLDS, seed, ...settings }, usable);
  const sign = metric.better === 'higher' ? 1 : -1;
  const parts = Array.from({ length: INNER_FOLDS }, (_, fold) => ({
    training: folds.training(0, fold),
    test: testRows(folds, 0, fold),
  }));
  return (features: readonly string[]): number => {
    const { mean } = figureOverFolds(request, parts, () => features, metric);
    return mean === null ? -Infinity : sign * mean;
  };
}

/** The choice with the largest worth, the first of equal ones. */
function bestOf<T>(choices: readonly T[], worth: (choice: T) => number): T {
  let [best, most] = [at(choices, 0), -Infinity];
  for (const choice of choices) {
    const own = worth(choice);
    if (own > most) [best, most] = [choice, own];
  }
  return best;
}

function forward(
  request: Omit<FitRequest, 'rows'>,
  rows: Int32Array,
  most: number,
  metric: Metric,
): string[][] {
  const worth = worthOn(request, rows, metric);
  const steps: string[][] = [];
  let chosen: string[] = [];
  while (chosen.length < most) {
    const left = request.features.filter((name) => !chosen.includes(name));
    const so = chosen;
    chosen = [...so, bestOf(left, (name) => worth([...so, name]))];
    steps.push(chosen);
  }
  return steps;
}

function backward(request: Omit<FitRequest, 'rows'>, rows: Int32Array, metric: Metric): string[][] {
  const worth = worthOn(request, rows, metric);
  let chosen = [...request.features];
  const steps = [chosen];
  while (chosen.length > 1) {
    const so = chosen;
    const out = bestOf(so, (name) => worth(so.filter((other) => other !== name)));
    chosen = so.filter((name) => name !== out);
    steps.push(chosen);
  }
  return steps.reverse();
}
