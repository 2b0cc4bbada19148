import { at } from '../../../foundation/numbers.js';
import { confusionCounts } from '../../confusion.js';
import { undefinedBecause, type LabelMetric } from '../../metric.js';

export const balancedAccuracy: LabelMetric = {
  key: 'balanced_accuracy',
  name: 'balanced accuracy',
  definition:
    'the mean over classes of the share of the class that was found; classes without a row do not count',
  source: 'scikit-learn, balanced_accuracy_score',
  better: 'higher',
  range: [0, 1],
  tasks: ['binary', 'multiclass'],
  needs: 'labels',
  compute: (data) => {
    const recalls = confusionCounts(data).flatMap((row, label) => {
      const actual = row.reduce((a, b) => a + b, 0);
      return actual > 0 ? [at(row, label) / actual] : [];
    });
    if (recalls.length === 0) return undefinedBecause('there are no rows');
    return { value: recalls.reduce((a, b) => a + b, 0) / recalls.length };
  },
};
