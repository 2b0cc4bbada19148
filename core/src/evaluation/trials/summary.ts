import type { MetricSummary, SettingSummary } from './setting-summary.js';
import { summariseFolds } from '../comparison/over-folds.js';
import type { Metric } from '../../metrics/metric.js';
import { at } from '../../foundation/numbers.js';
import type { Hyperparameter } from '../../models/contract/family.js';
import type { FoldFigures } from './measure.js';
import type { Figures } from './metrics.js';
import { TRAINING_SHARE } from './plan.js';
import { gainOver, isGain } from './verdict-tests.js';

const meanOf = (values: readonly number[]): number | null =>
  values.length === 0 ? null : values.reduce((a, b) => a + b, 0) / values.length;

/** Figures of one setting in every fold, summarised for each metric. */
export function summariseSetting(
  values: Readonly<Record<string, number>>,
  folds: readonly FoldFigures[],
  metrics: readonly Metric[],
): SettingSummary {
  const sizes = folds.flatMap(({ size }) => (size === null ? [] : [size]));
  return {
    values,
    size: meanOf(sizes),
    metrics: Object.fromEntries(metrics.map((metric) => [metric.key, summariseMetric(metric, folds)])),
  };
}

function summariseMetric({ key, better }: Metric, folds: readonly FoldFigures[]): MetricSummary {
  const figure = (of: Figures) => of[key] ?? { value: null, reason: 'it was not measured' };
  const over = summariseFolds(folds.map(({ test }) => figure(test)));
  const train = summariseFolds(folds.map(({ train }) => figure(train))).mean;
  const gap =
    over.mean === null || train === null ? null : better === 'higher' ? train - over.mean : over.mean - train;
  return {
    mean: over.mean,
    se: over.mean === null ? null : over.se,
    folds: folds.map(({ test }) => figure(test).value),
    train,
    gap,
    reason: over.mean === null ? over.reason : null,
  };
}

/** What a curve or grid says of one metric. Places are among the settings. */
export interface Choice {
  /** The best mean; of equal ones the simplest. */
  readonly best: number;
  /** The simplest whose mean lies within one standard error of the best (Breiman and others, 1984, 3.4.3). */
  readonly simplest: number;
  /** Simpler than any that is within one standard error of the best: underfitted. */
  readonly tooSimple: readonly number[];
  /**
   * More complex than the best, better on training rows and worse out of fold by more than chance: overfitted. From the
   * most complex setting down to the first that is not shown to be, so that one test is at stake (a fixed sequence).
   */
  readonly memorising: readonly number[];
}

/**
 * The best setting of a metric, and the simplest one that does as well. Null where no setting has a mean.
 *
 * @param hyperparameters for each varied setting which way models become more complex; a grid's settings are compared by their
 * mean size where the family is counted, else by the first varied setting
 * @param folds in one repeat; null where there is but one
 */
export function chooseSetting(
  settings: readonly SettingSummary[],
  metric: Metric,
  hyperparameters: readonly Hyperparameter[],
  folds: number | null = null,
): Choice | null {
  const order = simplestFirst(settings, hyperparameters);
  const sign = metric.better === 'higher' ? 1 : -1;
  const of = (place: number) => at(settings, place).metrics[metric.key];
  const scoreOf = (place: number) => sign * (of(place)?.mean ?? NaN);
  const known = order.filter((place) => !Number.isNaN(scoreOf(place)));
  const [first] = known;
  if (first === undefined) return null;
  const best = known.reduce((so, place) => (scoreOf(place) > scoreOf(so) + 1e-12 ? place : so), first);
  const limit = scoreOf(best) - (of(best)?.se ?? 0);
  const simplest = known.find((place) => scoreOf(place) >= limit - 1e-12) ?? best;
  const rank = new Map(order.map((place, i) => [place, i]));
  const ranked = (place: number) => rank.get(place) ?? 0;
  const trainOf = (place: number) => sign * (of(place)?.train ?? NaN);
  const bestFolds = of(best)?.folds ?? [];
  const memorising: number[] = [];
  for (const place of [...known].reverse()) {
    if (ranked(place) <= ranked(best) || !(trainOf(place) > trainOf(best) + 1e-12)) break;
    if (!isGain(gainOver(metric, bestFolds, of(place)?.folds ?? [], folds ?? bestFolds.length))) break;
    memorising.unshift(place);
  }
  return {
    best,
    simplest,
    tooSimple: known.filter((place) => ranked(place) < ranked(simplest)),
    memorising,
  };
}

/**
 * The choice among the settings that were trained on the largest share of the training rows: how many rows there are is no
 * setting of a model, and the one that is kept is trained on all of them. Places are among all settings.
 */
export function chooseAtFullSize(
  settings: readonly SettingSummary[],
  metric: Metric,
  hyperparameters: readonly Hyperparameter[],
  folds: number | null = null,
): Choice | null {
  const shareOf = ({ values }: SettingSummary) => values[TRAINING_SHARE] ?? 100;
  const most = settings.reduce((so, one) => Math.max(so, shareOf(one)), 0);
  const places = [...settings.keys()].filter((place) => shareOf(at(settings, place)) === most);
  const choice = chooseSetting(
    places.map((place) => at(settings, place)),
    metric,
    hyperparameters.filter(({ key }) => key !== TRAINING_SHARE),
    folds,
  );
  const back = (place: number) => at(places, place);
  return (
    choice && {
      best: back(choice.best),
      simplest: back(choice.simplest),
      tooSimple: choice.tooSimple.map(back),
      memorising: choice.memorising.map(back),
    }
  );
}

/** Places of the settings, the simplest first. */
function simplestFirst(
  settings: readonly SettingSummary[],
  hyperparameters: readonly Hyperparameter[],
): number[] {
  const places = [...settings.keys()];
  const byPlace = (a: number, b: number): number => {
    for (const { key, larger } of hyperparameters) {
      const difference = (at(settings, a).values[key] ?? 0) - (at(settings, b).values[key] ?? 0);
      if (difference !== 0) return larger === 'complex' ? difference : -difference;
    }
    return a - b;
  };
  if (hyperparameters.length < 2) return places.sort(byPlace);
  return places.sort((a, b) => (at(settings, a).size ?? 0) - (at(settings, b).size ?? 0) || byPlace(a, b));
}
