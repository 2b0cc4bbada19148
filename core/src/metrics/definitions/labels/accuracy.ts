import { agreement } from '../../confusion.js';
import { shareMetric } from '../../metric.js';

export const accuracy = shareMetric({
  key: 'accuracy',
  name: 'accuracy',
  definition: 'the share of rows whose class was predicted',
  source: 'scikit-learn, accuracy_score',
  better: 'higher',
  tasks: ['binary', 'multiclass'],
  proportion: agreement,
  undefinedWhen: 'there are no rows',
});
