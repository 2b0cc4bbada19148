/**
 * Whether neighbouring residuals resemble one another: about 2 where they do not, towards 0 where they do, towards 4
 * where they alternate (Durbin and Watson, Biometrika 37, 1950). Null where all are 0.
 */
export function durbinWatson(residuals: Float64Array): number | null {
  let [steps, squares] = [0, 0];
  for (let i = 0; i < residuals.length; i++) {
    const own = residuals[i] ?? 0;
    squares += own * own;
    if (i > 0) steps += (own - (residuals[i - 1] ?? 0)) ** 2;
  }
  return squares > 0 ? steps / squares : null;
}

/** Lags that are looked at. */
const LAGS = 10;

/** Correlation of residuals with those before them, and the band within which chance keeps 95 % of them. */
export interface Autocorrelation {
  /** From lag 0, which is 1, on. */
  readonly values: readonly number[];
  /** ±1.96 / √n. */
  readonly band: number;
}

/** statsmodels, acf without adjustment. Null where residuals do not vary. */
export function autocorrelation(residuals: Float64Array, lags = LAGS): Autocorrelation | null {
  const n = residuals.length;
  const mean = residuals.reduce((a, b) => a + b, 0) / n;
  const product = (lag: number) => {
    let sum = 0;
    for (let i = lag; i < n; i++) sum += ((residuals[i] ?? 0) - mean) * ((residuals[i - lag] ?? 0) - mean);
    return sum;
  };
  const all = product(0);
  if (!(all > 0)) return null;
  const values = Array.from({ length: Math.min(lags, n - 1) + 1 }, (_, lag) => product(lag) / all);
  return { values, band: 1.96 / Math.sqrt(n) };
}
