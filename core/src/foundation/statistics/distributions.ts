import upperGamma from '@stdlib/math-base-special-gammainc';
import binomialCdf from '@stdlib/stats-base-dists-binomial-cdf';
import fCdf from '@stdlib/stats-base-dists-f-cdf';
import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import tCdf from '@stdlib/stats-base-dists-t-cdf';
import tQuantile from '@stdlib/stats-base-dists-t-quantile';

/** Half the width of a two-sided normal interval in standard errors: 1.959… for a level of 0.95. */
export const normalHalfWidth = (level: number): number => normalQuantile((1 + level) / 2, 0, 1);

/** The same for Student's t. @param df degrees of freedom, above 0 */
export const studentHalfWidth = (level: number, df: number): number => tQuantile((1 + level) / 2, df);

/** Chance of a standard normal value at least as far from 0, on either side. */
export const normalTwoSided = (z: number): number => 2 * normalCdf(-Math.abs(z), 0, 1);

/** Chance of a value of Student's t at least as far from 0, on either side. */
export const studentTwoSided = (t: number, df: number): number => 2 * tCdf(-Math.abs(t), df);

/** Chance that of n throws of a fair coin at most, or at least, so many fall as one side did; at most 1. */
export const coinTwoSided = (heads: number, n: number): number =>
  Math.min(1, 2 * binomialCdf(Math.min(heads, n - heads), n, 0.5));

/** Chance of a chi-square value at least as large. @param df degrees of freedom, above 0 */
export const chiSquareAbove = (value: number, df: number): number =>
  value > 0 ? upperGamma(value / 2, df / 2, true, true) : 1;

/** Chance of a value of Fisher's F at least as large: by 1 / F, so that a small chance keeps its digits. */
export const fAbove = (value: number, df1: number, df2: number): number =>
  value > 0 ? fCdf(1 / value, df2, df1) : 1;

/** The value of a standard normal below which a share of values lie. @param p between 0 and 1 */
export const normalAt = (p: number): number => normalQuantile(p, 0, 1);

/** Chance of at most so many hits among n, each with chance p. */
export const chanceOfAtMost = (hits: number, n: number, p: number): number => binomialCdf(hits, n, p);

/** The share of a standard normal distribution below a value. */
export const normalBelow = (z: number): number => normalCdf(z, 0, 1);
