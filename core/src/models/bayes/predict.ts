import type { StateForm } from '../contract/state.js';
import { at } from '../../foundation/numbers.js';
import type { Sample } from '../contract/sample.js';
import { softmax } from '../contract/softmax.js';
import type { BayesPart, BayesState } from './state.js';

/** Log-odds that stand for a class without rows: far below all others, and no infinity, which sums would not survive. */
const NEVER = -1e300;
/** The smallest density whose logarithm a number can hold. */
const LEAST = Number.MIN_VALUE;

/** Probabilities of the classes: the logarithms of prior and likelihoods are summed, and only then compared. */
function predictBayes({ logPriors, parts }: BayesState, sample: Sample): Float64Array[] {
  const sums = logPriors.map((prior) => new Float64Array(sample.rowCount).fill(prior ?? NEVER));
  for (const part of parts) {
    const logLikelihood = likelihoodOf(part, sample);
    sums.forEach((values, label) => {
      if (logPriors[label] === null) return;
      for (let row = 0; row < values.length; row++)
        values[row] = (values[row] ?? 0) + logLikelihood(label, row);
    });
  }
  return softmax(sums);
}

/** A missing value says nothing of any class. */
function likelihoodOf(part: BayesPart, sample: Sample): (label: number, row: number) => number {
  const { place } = part;
  switch (part.kind) {
    case 'normal': {
      const values = part.of === 'term' ? at(sample.design().columns, place) : numbersOf(sample, place);
      const constants = part.variances.map((variance) => Math.log(2 * Math.PI * variance) / 2);
      return (label, row) => {
        const value = values[row] ?? 0;
        if (Number.isNaN(value)) return 0;
        return -at(constants, label) - (value - at(part.means, label)) ** 2 / (2 * at(part.variances, label));
      };
    }
    case 'bernoulli': {
      const values = at(sample.design().columns, place);
      return (label, row) => at((values[row] ?? 0) > 0 ? part.logYes : part.logNo, label);
    }
    case 'counts': {
      const values = at(sample.design().columns, place);
      return (label, row) => (values[row] ?? 0) * at(part.logs, label);
    }
    case 'words': {
      const feature = at(sample.features, place);
      const counts = feature.kind === 'words' ? feature.counts : [];
      return (label, row) =>
        at(part.logs, label).reduce((sum, log, w) => sum + (counts[w]?.[row] ?? 0) * log, 0);
    }
    case 'kernel': {
      const values = numbersOf(sample, place);
      return (label, row) => {
        const value = values[row] ?? 0;
        return Number.isNaN(value)
          ? 0
          : Math.log(Math.max(LEAST, kernelDensity(at(part.classes, label), value)));
      };
    }
    case 'levels': {
      const feature = at(sample.features, place);
      const codes = feature.kind === 'category' ? feature.codes : new Int32Array();
      return (label, row) => at(part.logs, label)[codes[row] ?? -1] ?? 0;
    }
  }
}

const numbersOf = ({ features }: Sample, place: number): Float64Array => {
  const feature = at(features, place);
  return feature.kind === 'number' ? feature.values : new Float64Array();
};

/** Density of a sum of normal kernels (Silverman, Density Estimation, 1986, 2.4). */
export function kernelDensity(
  {
    values,
    shares,
    bandwidth,
  }: {
    readonly values: readonly number[];
    readonly shares: readonly number[];
    readonly bandwidth: number;
  },
  at: number,
): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) {
    const z = (at - (values[i] ?? 0)) / bandwidth;
    sum += (shares[i] ?? 0) * Math.exp((-z * z) / 2);
  }
  return sum / (bandwidth * Math.sqrt(2 * Math.PI));
}

export const bayesForm: StateForm<BayesState> = {
  name: 'bayes',
  predict: predictBayes,
  sizeOf: (_, features) => ({ count: features, of: 'features' }),
};
