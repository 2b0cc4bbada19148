/** Impurities of classes per unit of weight that differ by less than this are the same: rounding alone makes them differ. */
export const ALIKE_CLASSES = 1e-12;

/** The same of numbers, by their variance; and what rounding leaves of a variance where all of them are alike. */
const OF_VARIANCE = 1e-12;
const OF_SQUARED_MEAN = 1e-28;

/**
 * The impurity of numbers per unit of weight below which two are the same, in the square of their unit.
 *
 * @param values one for each row
 * @param weights of the rows; null where each counts once
 */
export function alikeNumbers(values: Float64Array, weights: Float64Array | null): number {
  let total = 0;
  let sum = 0;
  for (let row = 0; row < values.length; row++) {
    const weight = weights ? (weights[row] ?? 0) : 1;
    total += weight;
    sum += weight * (values[row] ?? 0);
  }
  if (total === 0) return 0;
  const mean = sum / total;
  let square = 0;
  for (let row = 0; row < values.length; row++)
    square += (weights ? (weights[row] ?? 0) : 1) * ((values[row] ?? 0) - mean) ** 2;
  return (OF_VARIANCE * square) / total + OF_SQUARED_MEAN * mean * mean;
}
