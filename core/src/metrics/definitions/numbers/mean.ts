import type { NumberData } from '../../metric.js';

/** Weighted mean of a function of truth and prediction; NaN without rows. */
export function meanOver(data: NumberData, f: (truth: number, predicted: number) => number): number {
  let sum = 0;
  let total = 0;
  for (let i = 0; i < data.truth.length; i++) {
    const weight = data.weights ? (data.weights[i] ?? 0) : 1;
    sum += weight * f(data.truth[i] ?? 0, data.predicted[i] ?? 0);
    total += weight;
  }
  return sum / total;
}

/** A figure from a mean that is NaN only where there are no rows. */
export const meanFigure = (value: number) =>
  Number.isNaN(value) ? { value: null, reason: 'there are no rows' } : { value };
