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
  if (judged.kind === 'labels') {
    const { data } = judged;
    return {
      kind: 'labels',
      data: {
        ...data,
        truth: codesOf(data.truth, rows),
        predicted: codesOf(data.predicted, rows),
        probabilities: data.probabilities?.map((own) => valuesOf(own, rows)) ?? null,
        weights: data.weights ? valuesOf(data.weights, rows) : null,
      },
    };
  }
  const { data } = judged;
  return {
    kind: 'numbers',
    data: {
      ...data,
      truth: valuesOf(data.truth, rows),
      predicted: valuesOf(data.predicted, rows),
      weights: data.weights ? valuesOf(data.weights, rows) : null,
    },
  };
}

// A function for each kind of array: bootstraps call them for many million rows.
function codesOf(source: Int32Array, rows: Int32Array): Int32Array {
  const out = new Int32Array(rows.length);
  for (let i = 0; i < out.length; i++) out[i] = source[rows[i] ?? 0] ?? 0;
  return out;
}

function valuesOf(source: Float64Array, rows: Int32Array): Float64Array {
  const out = new Float64Array(rows.length);
  for (let i = 0; i < out.length; i++) out[i] = source[rows[i] ?? 0] ?? 0;
  return out;
}
