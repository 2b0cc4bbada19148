import { at } from '../../foundation/numbers.js';
import { bootstrapFigures, membersOf, percentiles, strataOfJudged, usualDraws } from './bootstrap.js';
import { delong } from './delong.js';
import { figureOf, type Judged } from '../judged.js';
import type { Metric } from '../metric.js';
import { wilson } from '../../foundation/statistics/wilson.js';

/** An interval and how it was found, or the reason why there is none. */
export type Interval =
  | {
      readonly low: number;
      readonly high: number;
      readonly method: 'Wilson' | 'DeLong' | 'bootstrap' | 'bootstrap of groups';
    }
  | { readonly low: null; readonly high: null; readonly reason: string };

export interface IntervalOptions {
  /** Of the bootstrap. */
  readonly seed: number;
  /** Share of the figures that the interval is to cover; 0.95 where left out. */
  readonly level?: number;
  /** Draws of the bootstrap; by the number of rows where left out, none at all for 0. */
  readonly draws?: number;
}

export const FEWEST_GROUPS = 10;

const none = (reason: string): Interval => ({ low: null, high: null, reason });

/**
 * The interval of a metric: Wilson for shares of rows, DeLong for the area, else a percentile bootstrap,
 * stratified by true class. Where rows come in groups, whole groups are drawn instead, whatever the metric,
 * and with fewer than ten groups there is no interval.
 *
 * @param groups the group of each row, or null where rows are independent
 */
export function intervalOf(
  metric: Metric,
  judged: Judged,
  groups: Int32Array | null,
  { seed, level = 0.95, draws }: IntervalOptions,
): Interval {
  const { data } = judged;
  if (data.weights) return none('an interval under row weights is not defined here');
  if (figureOf(metric, judged).value === null) return none('the figure itself is undefined');
  const members = groups ? membersOf(groups) : null;
  if (members && members.length < FEWEST_GROUPS)
    return none(`${members.length} groups are too few to judge by: at least ${FEWEST_GROUPS} are needed`);
  if (!members && metric.needs !== 'numbers' && judged.kind === 'labels') {
    if (metric.proportion) {
      const { hits, of } = metric.proportion(judged.data);
      return { ...wilson(hits, of, level), method: 'Wilson' };
    }
    if (metric.key === 'roc_auc' && judged.data.probabilities) {
      const positive = judged.data.positive ?? judged.data.labels.length - 1;
      const estimate = delong(at(judged.data.probabilities, positive), judged.data.truth, positive, level);
      if (!estimate) return none('it takes two rows of each class');
      if (!(estimate.variance > 0))
        return none('every positive row is above every negative one, or below: such rows show no variance');
      return { low: estimate.low, high: estimate.high, method: 'DeLong' };
    }
  }
  const count = draws ?? usualDraws(data.truth.length);
  if (count === 0) return none('it takes a bootstrap, which was not asked for');
  const strata = members ? [] : strataOfJudged(judged);
  const figures = bootstrapFigures(metric, judged, { strata, groups: members, draws: count, seed });
  if (figures.length < count / 2 && metric.needs === 'numbers' && metric.needsFeatures)
    return none('it takes the features of each row, which predictions do not have');
  if (figures.length < count / 2) return none('most redrawn samples leave the figure undefined');
  return { ...percentiles(figures, level), method: members ? 'bootstrap of groups' : 'bootstrap' };
}
