import { at } from '../../../foundation/numbers.js';
import { marginals } from '../../confusion.js';
import { ratio, type LabelMetric } from '../../metric.js';

export const mcc: LabelMetric = {
  key: 'mcc',
  name: 'Matthews correlation',
  definition: 'the correlation of true and predicted class, for two classes or more',
  source: 'Gorodkin, Computational Biology and Chemistry 28 (2004); scikit-learn, matthews_corrcoef',
  better: 'higher',
  range: [-1, 1],
  tasks: ['binary', 'multiclass'],
  needs: 'labels',
  compute: (data) => {
    const { rows, columns, n, agreed } = marginals(data);
    const squares = (values: readonly number[]) => values.reduce((total, value) => total + value * value, 0);
    const crossed = rows.reduce((total, row, label) => total + row * at(columns, label), 0);
    const spread = Math.sqrt((n * n - squares(columns)) * (n * n - squares(rows)));
    return ratio(agreed * n - crossed, spread, 'truth or prediction has only one class');
  },
};
