import { meanFigure, meanOver } from './mean.js';
import type { NumberMetric } from '../../metric.js';

export const smape: NumberMetric = {
  key: 'smape',
  name: 'symmetric mean absolute percentage error',
  definition:
    'the mean of |prediction − truth| / ((|truth| + |prediction|) / 2), as a fraction; 0 where both are 0',
  source:
    'Makridakis, International Journal of Forecasting 9 (1993), with absolute values in the denominator',
  better: 'lower',
  range: [0, 2],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'none',
  compute: (data) =>
    meanFigure(
      meanOver(data, (truth, predicted) => {
        const size = (Math.abs(truth) + Math.abs(predicted)) / 2;
        return size === 0 ? 0 : Math.abs(predicted - truth) / size;
      }),
    ),
};
