import { calibrationTable } from '../../curves/calibration.js';
import { undefinedBecause, type LabelMetric } from '../../metric.js';

export const calibrationError: LabelMetric = {
  key: 'calibration_error',
  name: 'expected calibration error',
  definition:
    'the mean over ten equal runs of probability of |share that is positive − mean probability|, each run by its rows',
  source: 'Naeini, Cooper and Hauskrecht, AAAI (2015)',
  better: 'lower',
  range: [0, 1],
  tasks: ['binary'],
  needs: 'probabilities',
  compute: (data) => {
    if (!data.probabilities) return undefinedBecause('no probabilities were given');
    const table = calibrationTable(data);
    const total = table.reduce((sum, run) => sum + run.rows, 0);
    if (total === 0) return undefinedBecause('there are no rows');
    return {
      value: table.reduce(
        (sum, { rows, positive, mean }) =>
          positive === null || mean === null ? sum : sum + (rows / total) * Math.abs(positive - mean),
        0,
      ),
    };
  },
};
