import { meanOver } from './mean.js';
import { ratio, undefinedBecause, type NumberMetric } from '../../metric.js';

export const r2: NumberMetric = {
  key: 'r2',
  name: 'R²',
  definition: '1 − (sum of squared errors) / (sum of squares about the mean of the truth on these rows)',
  source: 'scikit-learn, r2_score',
  better: 'higher',
  range: [null, 1],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'none',
  compute: (data) => {
    if (data.truth.length < 2) return undefinedBecause('it takes at least two rows');
    const mean = meanOver(data, (truth) => truth);
    const about = meanOver(data, (truth) => (truth - mean) ** 2);
    return ratio(
      about - meanOver(data, (truth, predicted) => (truth - predicted) ** 2),
      about,
      'the truth does not vary',
    );
  },
};
