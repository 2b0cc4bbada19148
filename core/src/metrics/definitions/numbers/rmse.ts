import { meanFigure, meanOver } from './mean.js';
import type { NumberMetric } from '../../metric.js';

export const rmse: NumberMetric = {
  key: 'rmse',
  name: 'root mean squared error',
  definition: 'the square root of the mean of (prediction − truth)², in the unit of the target',
  source: 'scikit-learn, mean_squared_error with squared=False',
  better: 'lower',
  range: [0, null],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'target',
  compute: (data) => meanFigure(Math.sqrt(meanOver(data, (truth, predicted) => (predicted - truth) ** 2))),
};
