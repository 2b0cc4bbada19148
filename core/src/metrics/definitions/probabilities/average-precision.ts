import { at } from '../../../foundation/numbers.js';
import { undefinedBecause, type LabelMetric } from '../../metric.js';
import { rankingOf } from '../../curves/ranking.js';

export const averagePrecision: LabelMetric = {
  key: 'average_precision',
  name: 'average precision',
  definition:
    'precision at each step down the ranking, weighted by the recall gained there; tied scores are one step',
  source: 'scikit-learn, average_precision_score',
  better: 'higher',
  range: [0, 1],
  tasks: ['binary'],
  needs: 'probabilities',
  compute: (data) => {
    if (!data.probabilities) return undefinedBecause('no probabilities were given');
    const positive = data.positive ?? data.labels.length - 1;
    let found = 0;
    let seen = 0;
    let total = 0;
    const ranking = rankingOf(at(data.probabilities, positive), data.truth, positive, data.weights);
    for (let place = 0; place < ranking.scores.length; place++) {
      const here = at(ranking.positive, place);
      found += here;
      seen += here + at(ranking.negative, place);
      if (seen > 0) total += here * (found / seen);
    }
    return found === 0 ? undefinedBecause('no row is positive') : { value: total / found };
  },
};
