import { meanFigure, meanOver } from './mean.js';
import { undefinedBecause, type NumberMetric } from '../../metric.js';

export const rmsle: NumberMetric = {
  key: 'rmsle',
  name: 'root mean squared logarithmic error',
  definition: 'the square root of the mean of (ln(1 + prediction) − ln(1 + truth))²',
  source: 'scikit-learn, mean_squared_log_error, square root',
  better: 'lower',
  range: [0, null],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'none',
  compute: (data) =>
    [data.truth, data.predicted].some((values) =>
      // A row without weight is not counted.
      values.some((value, row) => value <= -1 && (data.weights?.[row] ?? 1) > 0),
    )
      ? undefinedBecause('a value is −1 or less, and has no logarithm')
      : meanFigure(
          Math.sqrt(
            meanOver(data, (truth, predicted) =>
              // NaN times no weight would be NaN.
              truth <= -1 || predicted <= -1 ? 0 : (Math.log1p(predicted) - Math.log1p(truth)) ** 2,
            ),
          ),
        ),
};
