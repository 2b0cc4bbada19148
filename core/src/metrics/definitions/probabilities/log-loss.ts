import { undefinedBecause, type LabelMetric } from '../../metric.js';

export const logLoss: LabelMetric = {
  key: 'log_loss',
  name: 'log loss',
  definition:
    'the mean of −ln of the probability given to the class that came true; probabilities are made to sum to 1 and kept 2^−52 away from 0 and 1',
  source: 'scikit-learn, log_loss',
  better: 'lower',
  range: [0, null],
  tasks: ['binary', 'multiclass'],
  needs: 'probabilities',
  compute: ({ probabilities, truth, weights }) => {
    if (!probabilities) return undefinedBecause('no probabilities were given');
    let loss = 0;
    let total = 0;
    for (let i = 0; i < truth.length; i++) {
      const weight = weights ? (weights[i] ?? 0) : 1;
      let all = 0;
      for (const p of probabilities) all += p[i] ?? 0;
      const given = (probabilities[truth[i] ?? 0]?.[i] ?? 0) / all;
      loss -= weight * Math.log(Math.min(Math.max(given, Number.EPSILON), 1 - Number.EPSILON));
      total += weight;
    }
    return total === 0 ? undefinedBecause('there are no rows') : { value: loss / total };
  },
};
