import { positiveCounts } from '../../confusion.js';
import { shareMetric } from '../../metric.js';

export const falsePositiveRate = shareMetric({
  key: 'fpr',
  name: 'false-positive rate',
  definition: 'of the negative rows, the share predicted positive: 1 − specificity',
  source: 'Fawcett, Pattern Recognition Letters 27 (2006)',
  better: 'lower',
  tasks: ['binary'],
  proportion: (data) => {
    const { fp, tn } = positiveCounts(data);
    return { hits: fp, of: fp + tn };
  },
  undefinedWhen: 'no row is negative',
});
