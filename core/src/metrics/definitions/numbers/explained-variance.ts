import { meanOver } from './mean.js';
import { ratio, undefinedBecause, type NumberMetric } from '../../metric.js';

export const explainedVariance: NumberMetric = {
  key: 'explained_variance',
  name: 'explained variance',
  definition: '1 − (variance of the errors) / (variance of the truth): R² that forgives a constant error',
  source: 'scikit-learn, explained_variance_score',
  better: 'higher',
  range: [null, 1],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'none',
  compute: (data) => {
    if (data.truth.length < 2) return undefinedBecause('it takes at least two rows');
    const mean = meanOver(data, (truth) => truth);
    const bias = meanOver(data, (truth, predicted) => truth - predicted);
    const about = meanOver(data, (truth) => (truth - mean) ** 2);
    const errors = meanOver(data, (truth, predicted) => (truth - predicted - bias) ** 2);
    return ratio(about - errors, about, 'the truth does not vary');
  },
};
