import { agreement } from '../../confusion.js';
import { shareMetric } from '../../metric.js';

export const errorRate = shareMetric({
  key: 'error_rate',
  name: 'error rate',
  definition: 'the share of rows whose class was missed: 1 − accuracy',
  source: 'scikit-learn, zero_one_loss',
  better: 'lower',
  tasks: ['binary', 'multiclass'],
  proportion: (data) => {
    const { hits, of } = agreement(data);
    return { hits: of - hits, of };
  },
  undefinedWhen: 'there are no rows',
});
