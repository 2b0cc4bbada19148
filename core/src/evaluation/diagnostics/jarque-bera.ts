import { chiSquareAbove } from '../../foundation/statistics/distributions.js';

export interface JarqueBera {
  readonly statistic: number;
  readonly p: number;
  /** Of the values as they are, without correction; a normal distribution has 0 and 3. */
  readonly skewness: number;
  readonly kurtosis: number;
}

/**
 * Whether skewness and kurtosis are those of a normal distribution (Jarque and Bera, International Statistical Review
 * 55, 1987; statsmodels, jarque_bera). Null where values do not vary.
 */
export function jarqueBera(values: Float64Array): JarqueBera | null {
  const n = values.length;
  const mean = values.reduce((a, b) => a + b, 0) / n;
  let [m2, m3, m4] = [0, 0, 0];
  for (const value of values) {
    const d = value - mean;
    m2 += d ** 2 / n;
    m3 += d ** 3 / n;
    m4 += d ** 4 / n;
  }
  if (!(m2 > 0)) return null;
  const skewness = m3 / m2 ** 1.5;
  const kurtosis = m4 / (m2 * m2);
  const statistic = (n / 6) * (skewness ** 2 + (kurtosis - 3) ** 2 / 4);
  return { statistic, p: chiSquareAbove(statistic, 2), skewness, kurtosis };
}
