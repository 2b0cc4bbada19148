import { at } from '../foundation/numbers.js';
import type { Figure, LabelData, Metric, NumberData } from './metric.js';

/** Predictions beside what was true: a label metric needs label data, a number metric number data. */
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

/** Judged predictions with other row weights. */
export function weighted(judged: Judged, weights: Float64Array): Judged {
  return judged.kind === 'labels'
    ? { kind: 'labels', data: { ...judged.data, weights } }
    : { kind: 'numbers', data: { ...judged.data, weights } };
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
      ...data,
      truth: values(data.truth),
      predicted: values(data.predicted),
      weights: data.weights ? values(data.weights) : null,
    },
  };
}
