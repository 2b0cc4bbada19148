import { positiveCounts } from '../../confusion.js';
import { shareMetric } from '../../metric.js';

export const recall = shareMetric({
  key: 'recall',
  name: 'recall (sensitivity)',
  definition: 'of the positive rows, the share that was found',
  source: 'scikit-learn, recall_score',
  better: 'higher',
  tasks: ['binary'],
  proportion: (data) => {
    const { tp, fn } = positiveCounts(data);
    return { hits: tp, of: tp + fn };
  },
  undefinedWhen: 'no row is positive',
});
