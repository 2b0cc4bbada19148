import { undefinedBecause, type NumberMetric } from '../../metric.js';
import { r2 } from './r2.js';

export const adjustedR2: NumberMetric = {
  key: 'adjusted_r2',
  name: 'adjusted R²',
  definition: '1 − (1 − R²)·(n − 1) / (n − p − 1) with n rows and p features',
  source: 'Theil, Economic Forecasts and Policy (1961); R, summary.lm',
  better: 'higher',
  range: [null, 1],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'none',
  needsFeatures: true,
  compute: (data) => {
    const n = data.truth.length;
    const p = data.features;
    if (p === null) return undefinedBecause('the number of features is not known');
    if (data.weights) return undefinedBecause('under weights the number of rows is not known');
    if (n - p - 1 <= 0) return undefinedBecause('there are not more rows than features');
    const figure = r2.compute(data);
    return figure.value === null ? figure : { value: 1 - ((1 - figure.value) * (n - 1)) / (n - p - 1) };
  },
};
