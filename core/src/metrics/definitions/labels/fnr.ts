import { positiveCounts } from '../../confusion.js';
import { shareMetric } from '../../metric.js';

export const falseNegativeRate = shareMetric({
  key: 'fnr',
  name: 'false-negative rate',
  definition: 'of the positive rows, the share that was missed: 1 − recall',
  source: 'Fawcett, Pattern Recognition Letters 27 (2006)',
  better: 'lower',
  tasks: ['binary'],
  proportion: (data) => {
    const { fn, tp } = positiveCounts(data);
    return { hits: fn, of: fn + tp };
  },
  undefinedWhen: 'no row is positive',
});
