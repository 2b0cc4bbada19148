import { at, indices, quantile } from '../numbers.js';
import { seededRandom, type Random } from '../random/random.js';
import { delong } from './delong.js';
import type { Figure, LabelData, Metric, NumberData } from './metric.js';
import { wilson } from './wilson.js';

/** A 95 % interval and how it was found, or the reason why there is none. */
export type Interval =
  | {
      readonly low: number;
      readonly high: number;
      readonly method: 'Wilson' | 'DeLong' | 'bootstrap' | 'bootstrap of groups';
    }
  | { readonly low: null; readonly high: null; readonly reason: string };

const FEWEST_GROUPS = 10;
/** Draws of a bootstrap, and of one over more rows than that. */
const DRAWS = 1000;
const DRAWS_OF_MANY_ROWS = 200;
const MANY_ROWS = 20_000;

const none = (reason: string): Interval => ({ low: null, high: null, reason });

/** Predictions with what belongs together: a label metric needs label data, a number metric number data. */
export type Judged =
  | { readonly kind: 'labels'; readonly data: LabelData }
  | { readonly kind: 'numbers'; readonly data: NumberData };

/** The figure of a metric on judged rows. */
export function figureOf(metric: Metric, judged: Judged): Figure {
  if (metric.needs === 'numbers') {
    return judged.kind === 'numbers'
      ? metric.compute(judged.data)
      : { value: null, reason: 'it judges numbers, not classes' };
  }
  return judged.kind === 'labels'
    ? metric.compute(judged.data)
    : { value: null, reason: 'it judges classes, not numbers' };
}

/**
 * The 95 % interval of a metric: Wilson for shares of rows, DeLong for the area, else a percentile bootstrap,
 * stratified by true class. Where rows come in groups, whole groups are drawn instead, whatever the metric,
 * and with fewer than ten groups there is no interval.
 *
 * @param groups the group of each row, or null where rows are independent
 * @param seed of the bootstrap
 */
export function intervalOf(
  metric: Metric,
  judged: Judged,
  groups: Int32Array | null,
  seed: number,
): Interval {
  const { data } = judged;
  if (data.weights) return none('an interval under row weights is not defined here');
  if (figureOf(metric, judged).value === null) return none('the figure itself is undefined');
  if (groups) {
    const members = membersOf(groups);
    if (members.length < FEWEST_GROUPS) {
      return none(`${members.length} groups are too few to judge by: at least ${FEWEST_GROUPS} are needed`);
    }
    return bootstrap(metric, judged, 'bootstrap of groups', seed, (random) =>
      Int32Array.from(members.flatMap(() => at(members, random.below(members.length)))),
    );
  }
  if (metric.needs !== 'numbers' && judged.kind === 'labels') {
    if (metric.proportion) {
      const { hits, of } = metric.proportion(judged.data);
      return { ...wilson(hits, of), method: 'Wilson' };
    }
    if (metric.key === 'roc_auc' && judged.data.probabilities) {
      const positive = judged.data.positive ?? judged.data.labels.length - 1;
      const estimate = delong(
        at(judged.data.probabilities, positive),
        (i) => judged.data.truth[i] === positive,
      );
      if (!estimate) return none('it takes two rows of each class');
      return { low: estimate.low, high: estimate.high, method: 'DeLong' };
    }
  }
  const strata =
    judged.kind === 'labels' ? membersOf(judged.data.truth) : [Array.from(indices(data.truth.length))];
  return bootstrap(metric, judged, 'bootstrap', seed, (random) =>
    Int32Array.from(strata.flatMap((rows) => rows.map(() => at(rows, random.below(rows.length))))),
  );
}

/** Rows by code, in order of code. */
function membersOf(codes: Int32Array): number[][] {
  const members = new Map<number, number[]>();
  codes.forEach((code, row) => {
    const rows = members.get(code);
    if (rows) rows.push(row);
    else members.set(code, [row]);
  });
  return [...members.entries()].sort(([a], [b]) => a - b).map(([, rows]) => rows);
}

function bootstrap(
  metric: Metric,
  judged: Judged,
  method: 'bootstrap' | 'bootstrap of groups',
  seed: number,
  draw: (random: Random) => Int32Array,
): Interval {
  const random = seededRandom(seed, 'bootstrap');
  const draws = judged.data.truth.length > MANY_ROWS ? DRAWS_OF_MANY_ROWS : DRAWS;
  const values: number[] = [];
  for (let b = 0; b < draws; b++) {
    const { value } = figureOf(metric, resampled(judged, draw(random)));
    if (value !== null) values.push(value);
  }
  if (values.length < draws / 2) return none('most redrawn samples leave the figure undefined');
  const sorted = Float64Array.from(values).sort();
  return { low: quantile(sorted, 0.025), high: quantile(sorted, 0.975), method };
}

/** The given rows of judged predictions, repeated as often as they are named. */
export function resampled(judged: Judged, rows: Int32Array): Judged {
  const codes = (source: Int32Array) => rows.map((row) => at(source, row));
  const values = (source: Float64Array) => Float64Array.from(rows, (row) => at(source, row));
  if (judged.kind === 'labels') {
    const { data } = judged;
    return {
      kind: 'labels',
      data: {
        ...data,
        truth: codes(data.truth),
        predicted: codes(data.predicted),
        probabilities: data.probabilities?.map(values) ?? null,
        weights: data.weights ? values(data.weights) : null,
      },
    };
  }
  const { data } = judged;
  return {
    kind: 'numbers',
    data: {
      truth: values(data.truth),
      predicted: values(data.predicted),
      weights: data.weights ? values(data.weights) : null,
    },
  };
}
