import { meanFigure, meanOver } from './mean.js';
import type { NumberMetric } from '../../metric.js';

export const meanError: NumberMetric = {
  key: 'mean_error',
  name: 'mean error',
  definition: 'the mean of prediction − truth: above 0 predicts too much',
  source: 'Hyndman and Koehler, International Journal of Forecasting 22 (2006), sign turned',
  better: 'lower',
  range: [null, null],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'target',
  compute: (data) => meanFigure(meanOver(data, (truth, predicted) => predicted - truth)),
};
