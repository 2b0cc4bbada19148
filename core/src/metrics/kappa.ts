import { at } from '../numbers.js';
import { marginals } from './confusion.js';
import { ratio, type LabelMetric } from './metric.js';

export const kappa: LabelMetric = {
  key: 'kappa',
  name: 'Cohen’s kappa',
  definition:
    'agreement beyond what the two sets of class shares give by chance: (observed − expected) / (1 − expected)',
  source: 'Cohen, Educational and Psychological Measurement 20 (1960); scikit-learn, cohen_kappa_score',
  better: 'higher',
  range: [-1, 1],
  tasks: ['binary', 'multiclass'],
  needs: 'labels',
  compute: (data) => {
    const { rows, columns, n, agreed } = marginals(data);
    const chance = rows.reduce((total, row, label) => total + (row * at(columns, label)) / n, 0);
    return ratio(agreed - chance, n - chance, 'all rows are of one class and were predicted so');
  },
};
