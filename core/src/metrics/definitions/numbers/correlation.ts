import { spearman } from '../../../data/profile/association.js';
import { meanOver } from './mean.js';
import { ratio, undefinedBecause, type NumberMetric } from '../../metric.js';

/** One over the largest absolute value; 1 where that cannot be. */
function scaleOf(values: Float64Array): number {
  const most = values.reduce((so, value) => Math.max(so, Math.abs(value)), 0);
  return most > 1e-300 && most < 1e300 ? 1 / most : 1;
}

export const pearsonCorrelation: NumberMetric = {
  key: 'pearson',
  name: 'Pearson correlation',
  definition:
    'the linear correlation of prediction and truth: how well they rise together, whatever scale and offset',
  source: 'scipy, pearsonr',
  better: 'higher',
  range: [-1, 1],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'none',
  compute: (data) => {
    // Squares of large or small numbers leave what doubles hold: deviations are brought near 1.
    const meanTruth = meanOver(data, (truth) => truth);
    const meanPredicted = meanOver(data, (_, predicted) => predicted);
    const spread = (f: (truth: number, predicted: number) => number) => meanOver(data, f);
    const [a, b] = [scaleOf(data.truth), scaleOf(data.predicted)];
    const truths = spread((truth) => ((truth - meanTruth) * a) ** 2);
    const predictions = spread((_, predicted) => ((predicted - meanPredicted) * b) ** 2);
    const both = spread((truth, predicted) => (truth - meanTruth) * a * ((predicted - meanPredicted) * b));
    if (!(truths > 0 && predictions > 0)) return undefinedBecause('truth or prediction does not vary');
    return ratio(both, Math.sqrt(truths) * Math.sqrt(predictions), 'truth or prediction does not vary');
  },
};

export const spearmanCorrelation: NumberMetric = {
  key: 'spearman',
  name: 'Spearman correlation',
  definition: 'the correlation of the ranks of prediction and truth: how well their orders agree',
  source: 'scipy, spearmanr',
  better: 'higher',
  range: [-1, 1],
  tasks: ['regression'],
  needs: 'numbers',
  unit: 'none',
  unweighted: true,
  compute: ({ truth, predicted, weights }) => {
    if (weights) return undefinedBecause('ranks under weights have no agreed definition');
    const value = spearman(truth, predicted);
    return value === null ? undefinedBecause('truth or prediction does not vary') : { value };
  },
};
