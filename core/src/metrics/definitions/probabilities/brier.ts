import { at } from '../../../foundation/numbers.js';
import { undefinedBecause, type LabelMetric } from '../../metric.js';

export const brier: LabelMetric = {
  key: 'brier',
  name: 'Brier score',
  definition:
    'the mean squared difference between the probability of the positive class and what came true (0 or 1)',
  source: 'Brier, Monthly Weather Review 78 (1950); scikit-learn, brier_score_loss',
  better: 'lower',
  range: [0, 1],
  tasks: ['binary'],
  needs: 'probabilities',
  compute: ({ probabilities, truth, weights, positive, labels }) => {
    if (!probabilities) return undefinedBecause('no probabilities were given');
    const label = positive ?? labels.length - 1;
    const given = at(probabilities, label);
    let squares = 0;
    let total = 0;
    for (let i = 0; i < truth.length; i++) {
      const weight = weights ? (weights[i] ?? 0) : 1;
      squares += weight * ((given[i] ?? 0) - (truth[i] === label ? 1 : 0)) ** 2;
      total += weight;
    }
    return total === 0 ? undefinedBecause('there are no rows') : { value: squares / total };
  },
};
