import { normalBelow } from '../../../foundation/statistics/distributions.js';

/** Distribution functions by which a sum of terms becomes a probability: the inverses of the links of the same names. */
export const PROBABILITIES = {
  logit: (value: number) => 1 / (1 + Math.exp(-value)),
  probit: normalBelow,
  cloglog: (value: number) => 1 - Math.exp(-Math.exp(value)),
  loglog: (value: number) => Math.exp(-Math.exp(-value)),
  cauchit: (value: number) => 0.5 + Math.atan(value) / Math.PI,
} as const;

export type ProbabilityLink = keyof typeof PROBABILITIES;

export const isProbabilityLink = (link: string): link is ProbabilityLink => link in PROBABILITIES;

export const PROBABILITY_LINKS = Object.keys(PROBABILITIES) as ProbabilityLink[];
