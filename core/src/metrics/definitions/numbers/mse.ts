import { meanFigure, meanOver } from './mean.js';
import type { NumberMetric } from '../../metric.js';

export const mse: NumberMetric = {
  key: 'mse',
  name: 'mean squared error',
  definition: 'the mean of (prediction − truth)²',
  source: 'scikit-learn, mean_squared_error',
  better: 'lower',
  range: [0, null],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'target²',
  compute: (data) => meanFigure(meanOver(data, (truth, predicted) => (predicted - truth) ** 2)),
};
