import { positiveCounts } from '../../confusion.js';
import { shareMetric } from '../../metric.js';

export const negativePredictiveValue = shareMetric({
  key: 'npv',
  name: 'negative predictive value',
  definition: 'of the rows predicted negative, the share that is',
  source: 'Altman and Bland, BMJ 309:102 (1994)',
  better: 'higher',
  tasks: ['binary'],
  proportion: (data) => {
    const { tn, fn } = positiveCounts(data);
    return { hits: tn, of: tn + fn };
  },
  undefinedWhen: 'no row was predicted negative',
});
