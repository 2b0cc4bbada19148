import { leastSquares } from '../../foundation/statistics/least-squares.js';

/** Common practice: below 5 fine, above 10 serious. */
export const VIF_FINE = 5;
export const VIF_SERIOUS = 10;

/**
 * Variance inflation of each column: 1 / (1 − R²) of the column by all others (Belsley, Kuh and Welsch, Regression
 * Diagnostics, 1980; statsmodels, variance_inflation_factor with a constant).
 *
 * @param columns p columns of n values, n > p
 * @returns one for each; null where the others make the column up, or it does not vary
 */
export function varianceInflation(columns: readonly Float64Array[]): (number | null)[] {
  return columns.map((column, c) => {
    const { r2 } = leastSquares(
      columns.filter((_, other) => other !== c),
      column,
    );
    return Number.isNaN(r2) || r2 > 1 - 1e-12 ? null : 1 / (1 - r2);
  });
}
