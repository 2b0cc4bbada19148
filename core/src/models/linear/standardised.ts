import type { Design } from '../prepared/design.js';

/** Columns of mean 0 and deviation 1, and how they came about. */
export interface Standardised {
  readonly columns: readonly Float64Array[];
  readonly means: readonly number[];
  /** With n in the deviation; 1 for a column that does not vary, which becomes all 0. */
  readonly deviations: readonly number[];
  /** Whether a column varies at all. */
  readonly varies: readonly boolean[];
}

/** The columns of a design standardised, with row weights where there are any. */
export function standardise({ columns }: Design, weights: Float64Array | null): Standardised {
  const made = columns.map((column) => standardiseColumn(column, weights));
  return {
    columns: made.map(({ values }) => values),
    means: made.map(({ mean }) => mean),
    deviations: made.map(({ deviation }) => deviation),
    varies: made.map(({ varies }) => varies),
  };
}

function standardiseColumn(column: Float64Array, weights: Float64Array | null) {
  const n = column.length;
  let [sum, total] = [0, 0];
  for (let i = 0; i < n; i++) {
    const weight = weights ? (weights[i] ?? 0) : 1;
    sum += weight * (column[i] ?? 0);
    total += weight;
  }
  const mean = sum / total;
  let square = 0;
  for (let i = 0; i < n; i++) square += (weights ? (weights[i] ?? 0) : 1) * ((column[i] ?? 0) - mean) ** 2;
  const spread = Math.sqrt(square / total);
  const varies = spread > 1e-12 * Math.abs(mean);
  const deviation = varies ? spread : 1;
  const values = new Float64Array(n);
  if (varies) for (let i = 0; i < n; i++) values[i] = ((column[i] ?? 0) - mean) / deviation;
  return { values, mean, deviation, varies };
}

/** Slopes and intercept in the units of the columns, from those of standardised ones. */
export function unscaled(
  intercept: number,
  slopes: ArrayLike<number>,
  { means, deviations }: Pick<Standardised, 'means' | 'deviations'>,
): { intercept: number; slopes: number[] } {
  const own = deviations.map((deviation, c) => (slopes[c] ?? 0) / deviation);
  return {
    intercept: own.reduce((rest, slope, c) => rest - slope * (means[c] ?? 0), intercept),
    slopes: own,
  };
}
