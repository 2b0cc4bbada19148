import { meanFigure, meanOver } from './mean.js';
import type { NumberMetric } from '../../metric.js';

/** Loss of predicting a quantile: too low costs its share, too high the rest. */
const pinball = (percent: number): NumberMetric => ({
  key: `pinball_${percent}`,
  name: `pinball loss at ${percent} %`,
  definition: `the mean of ${percent / 100}·(truth − prediction) where that is above 0, else of ${(100 - percent) / 100}·(prediction − truth)`,
  source: 'Koenker and Bassett, Econometrica 46 (1978); scikit-learn, mean_pinball_loss',
  better: 'lower',
  range: [0, null],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'target',
  compute: (data) =>
    meanFigure(
      meanOver(data, (truth, predicted) =>
        truth >= predicted
          ? (percent / 100) * (truth - predicted)
          : (1 - percent / 100) * (predicted - truth),
      ),
    ),
});

export const pinballs: readonly NumberMetric[] = [10, 50, 90].map(pinball);
