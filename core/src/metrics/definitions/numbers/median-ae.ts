import { at, quantile } from '../../../foundation/numbers.js';
import { undefinedBecause, type NumberMetric } from '../../metric.js';

export const medianAe: NumberMetric = {
  key: 'median_ae',
  name: 'median absolute error',
  definition: 'the median of |prediction − truth|',
  source: 'scikit-learn, median_absolute_error',
  better: 'lower',
  range: [0, null],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'target',
  unweighted: true,
  compute: ({ truth, predicted, weights }) => {
    if (weights) return undefinedBecause('a median under weights has no agreed definition');
    if (truth.length === 0) return undefinedBecause('there are no rows');
    const errors = truth.map((value, i) => Math.abs(at(predicted, i) - value)).sort();
    return { value: quantile(errors, 0.5) };
  },
};
