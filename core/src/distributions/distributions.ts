import binomialCdf from '@stdlib/stats-base-dists-binomial-cdf';
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
