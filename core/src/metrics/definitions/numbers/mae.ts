import { meanFigure, meanOver } from './mean.js';
import type { NumberMetric } from '../../metric.js';

export const mae: NumberMetric = {
  key: 'mae',
  name: 'mean absolute error',
  definition: 'the mean of |prediction − truth|',
  source: 'scikit-learn, mean_absolute_error',
  better: 'lower',
  range: [0, null],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'target',
  compute: (data) => meanFigure(meanOver(data, (truth, predicted) => Math.abs(predicted - truth))),
};
