import { at, quantile } from '../../foundation/numbers.js';
import { type ClassTarget } from '../prepared/target.js';

export interface Classes {
  readonly target: ClassTarget;
  readonly weights: Float64Array | null;
  readonly sums: Float64Array;
  readonly laplace: number;
}

export function kernels({ target, weights }: Classes, values: Float64Array, factor: number) {
  return target.labels.map((_, label) => {
    const rows = Array.from(values.keys()).filter(
      (row) => target.codes[row] === label && !Number.isNaN(values[row]),
    );
    const counts = new Map<number, number>();
    for (const row of rows) {
      const value = values[row] ?? 0;
      counts.set(value, (counts.get(value) ?? 0) + (weights ? (weights[row] ?? 0) : 1));
    }
    const total = [...counts.values()].reduce((a, b) => a + b, 0);
    const sorted = Float64Array.from(rows, (row) => values[row] ?? 0).sort();
    return {
      values: [...counts.keys()],
      shares: [...counts.values()].map((count) => count / total),
      bandwidth: factor * usualBandwidth(sorted),
    };
  });
}

/** R, bw.nrd0: 0.9 times the smaller of deviation and quartile range / 1.34, times n^−0.2 (Silverman, 1986, 3.4.2). */
function usualBandwidth(sorted: Float64Array): number {
  const n = sorted.length;
  if (n === 0) return 1;
  const mean = sorted.reduce((a, b) => a + b, 0) / n;
  const deviation =
    n > 1 ? Math.sqrt(sorted.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (n - 1)) : 0;
  const range = (quantile(sorted, 0.75) - quantile(sorted, 0.25)) / 1.34;
  const spread = Math.min(deviation, range) || deviation || Math.abs(at(sorted, 0)) || 1;
  return 0.9 * spread * n ** -0.2;
}
