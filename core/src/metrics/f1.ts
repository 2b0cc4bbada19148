import { positiveCounts } from './confusion.js';
import { ratio, type LabelMetric } from './metric.js';

export const f1: LabelMetric = {
  key: 'f1',
  name: 'F1',
  definition: 'the harmonic mean of precision and recall: 2·tp / (2·tp + fp + fn)',
  source: 'scikit-learn, f1_score',
  better: 'higher',
  range: [0, 1],
  tasks: ['binary'],
  needs: 'labels',
  compute: (data) => {
    const { tp, fp, fn } = positiveCounts(data);
    return ratio(2 * tp, 2 * tp + fp + fn, 'no row is positive or was predicted so');
  },
};
