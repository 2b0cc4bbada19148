import { positiveCounts } from '../../confusion.js';
import { shareMetric } from '../../metric.js';

export const precision = shareMetric({
  key: 'precision',
  name: 'precision',
  definition: 'of the rows predicted positive, the share that is',
  source: 'scikit-learn, precision_score',
  better: 'higher',
  tasks: ['binary'],
  proportion: (data) => {
    const { tp, fp } = positiveCounts(data);
    return { hits: tp, of: tp + fp };
  },
  undefinedWhen: 'no row was predicted positive',
});
