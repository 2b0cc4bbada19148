import { leastSquares } from '../../foundation/statistics/least-squares.js';

/** How far single rows pull a linear fit. */
export interface Influence {
  /** Diagonal of the hat matrix. */
  readonly leverage: Float64Array;
  /** Cook's distance (Cook, Technometrics 19, 1977). */
  readonly cooks: Float64Array;
}

/** A row of leverage 1 decides a coefficient alone: without it there is none, and its distance is infinite. */
const ALONE = 1 - 1e-10;

/** Leverage and Cook's distance of each row of a linear regression (statsmodels, OLSInfluence). */
export function influence(columns: readonly Float64Array[], y: Float64Array): Influence {
  const fit = leastSquares(columns, y);
  const parameters = fit.kept.length + 1;
  const variance = fit.rest / (y.length - parameters);
  const leverage = fit.leverage();
  const cooks = leverage.map((pull, i) => {
    if (pull > ALONE) return Infinity;
    let fitted = fit.intercept;
    columns.forEach((column, c) => (fitted += (fit.slopes[c] ?? 0) * (column[i] ?? 0)));
    const residual = (y[i] ?? 0) - fitted;
    return ((residual * residual) / (parameters * variance)) * (pull / (1 - pull) ** 2);
  });
  return { leverage, cooks };
}
