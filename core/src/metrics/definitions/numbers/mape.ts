import { meanFigure, meanOver } from './mean.js';
import { undefinedBecause, type NumberMetric } from '../../metric.js';

export const mape: NumberMetric = {
  key: 'mape',
  name: 'mean absolute percentage error',
  definition: 'the mean of |prediction − truth| / |truth|, as a fraction',
  source: 'scikit-learn, mean_absolute_percentage_error',
  better: 'lower',
  range: [0, null],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'none',
  compute: (data) =>
    data.truth.some((value, i) => value === 0 && data.weights?.[i] !== 0)
      ? undefinedBecause('a true value is 0, and nothing is a percentage of it')
      : meanFigure(
          meanOver(data, (truth, predicted) => (truth === 0 ? 0 : Math.abs((predicted - truth) / truth))),
        ),
};
