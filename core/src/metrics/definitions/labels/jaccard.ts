import { positiveCounts } from '../../confusion.js';
import { ratio, type LabelMetric } from '../../metric.js';

export const jaccard: LabelMetric = {
  key: 'jaccard',
  name: 'Jaccard index',
  definition: 'of the rows that are positive or predicted so, the share that is both: tp / (tp + fp + fn)',
  source: 'scikit-learn, jaccard_score',
  better: 'higher',
  range: [0, 1],
  tasks: ['binary'],
  needs: 'labels',
  compute: (data) => {
    const { tp, fp, fn } = positiveCounts(data);
    return ratio(tp, tp + fp + fn, 'no row is positive or was predicted so');
  },
};
