import { chiSquareAbove } from '../../foundation/statistics/distributions.js';
import { leastSquares } from '../../foundation/statistics/least-squares.js';

/**
 * Whether the spread of residuals depends on the features: n R² of their squares by the features, in Koenker’s form
 * (Breusch and Pagan, Econometrica 47, 1979; Koenker, Journal of Econometrics 17, 1981; statsmodels, het_breuschpagan).
 *
 * @returns the statistic and its p; null where the squares do not vary or nothing varies with them
 */
export function breuschPagan(
  columns: readonly Float64Array[],
  residuals: Float64Array,
): { readonly lm: number; readonly p: number } | null {
  const { r2, kept } = leastSquares(
    columns,
    residuals.map((residual) => residual * residual),
  );
  if (Number.isNaN(r2) || kept.length === 0 || residuals.length <= kept.length + 1) return null;
  const lm = residuals.length * r2;
  return { lm, p: chiSquareAbove(lm, kept.length) };
}
