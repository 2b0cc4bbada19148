import { positiveCounts } from '../../confusion.js';
import { shareMetric } from '../../metric.js';

export const specificity = shareMetric({
  key: 'specificity',
  name: 'specificity',
  definition: 'of the negative rows, the share that was left alone',
  source: 'Altman and Bland, BMJ 308:1552 (1994)',
  better: 'higher',
  tasks: ['binary'],
  proportion: (data) => {
    const { tn, fp } = positiveCounts(data);
    return { hits: tn, of: tn + fp };
  },
  undefinedWhen: 'no row is negative',
});
