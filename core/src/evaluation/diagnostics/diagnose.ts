import { autocorrelation, durbinWatson, type Autocorrelation } from './autocorrelation.js';
import { breuschPagan } from './breusch-pagan.js';
import { histogramOf } from '../../foundation/statistics/histogram.js';
import { jarqueBera, type JarqueBera } from './jarque-bera.js';
import { normalPlot, type NormalPoint } from './normal-plot.js';

/** What residuals say of a regression. A figure that is not defined is null. */
export interface ResidualDiagnostics {
  readonly rows: number;
  readonly mean: number;
  /** With n − 1. */
  readonly sd: number;
  readonly jarqueBera: JarqueBera | null;
  readonly breuschPagan: { readonly lm: number; readonly p: number } | null;
  readonly durbinWatson: number | null;
  readonly autocorrelation: Autocorrelation | null;
  readonly normalPlot: readonly NormalPoint[];
  readonly histogram: readonly { readonly from: number; readonly to: number; readonly rows: number }[];
}

/**
 * Diagnostics of residuals, truth less prediction, in the order of the rows.
 *
 * @param columns the features as numbers, which the spread is held against
 */
export function diagnoseResiduals(
  residuals: Float64Array,
  columns: readonly Float64Array[],
): ResidualDiagnostics {
  const n = residuals.length;
  const mean = residuals.reduce((a, b) => a + b, 0) / n;
  const square = residuals.reduce((sum, residual) => sum + (residual - mean) ** 2, 0);
  return {
    rows: n,
    mean,
    sd: n > 1 ? Math.sqrt(square / (n - 1)) : 0,
    jarqueBera: jarqueBera(residuals),
    breuschPagan: breuschPagan(columns, residuals),
    durbinWatson: durbinWatson(residuals),
    autocorrelation: autocorrelation(residuals),
    normalPlot: normalPlot(residuals),
    histogram: histogramOf(residuals),
  };
}
