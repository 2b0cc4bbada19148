import { at } from '../../../foundation/numbers.js';
import { undefinedBecause, type NumberMetric } from '../../metric.js';

export const maxError: NumberMetric = {
  key: 'max_error',
  name: 'maximum error',
  definition: 'the largest |prediction − truth|',
  source: 'scikit-learn, max_error',
  better: 'lower',
  range: [0, null],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'target',
  compute: ({ truth, predicted, weights }) => {
    if (truth.length === 0) return undefinedBecause('there are no rows');
    return {
      value: truth.reduce(
        (most, value, i) => (weights?.[i] === 0 ? most : Math.max(most, Math.abs(at(predicted, i) - value))),
        0,
      ),
    };
  },
};
