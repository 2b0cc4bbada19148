import { spearman } from '../profile/association.js';
import { meanOver } from './errors.js';
import { ratio, undefinedBecause, type NumberMetric } from './metric.js';

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
    const meanTruth = meanOver(data, (truth) => truth);
    const meanPredicted = meanOver(data, (_, predicted) => predicted);
    const spread = (f: (truth: number, predicted: number) => number) => meanOver(data, f);
    const truths = spread((truth) => (truth - meanTruth) ** 2);
    const predictions = spread((_, predicted) => (predicted - meanPredicted) ** 2);
    const both = spread((truth, predicted) => (truth - meanTruth) * (predicted - meanPredicted));
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
