import { at } from '../../../foundation/numbers.js';
import { confusionCounts, marginals } from '../../confusion.js';
import { ratio, type LabelMetric } from '../../metric.js';

const base = {
  source: 'Cohen, Psychological Bulletin 70 (1968); scikit-learn, cohen_kappa_score',
  better: 'higher',
  range: [-1, 1],
  needs: 'labels',
} as const;

export const kappa: LabelMetric = {
  ...base,
  key: 'kappa',
  name: 'Cohen’s kappa',
  definition:
    'agreement beyond what the two sets of class shares give by chance: (observed − expected) / (1 − expected)',
  tasks: ['binary', 'multiclass'],
  compute: (data) => {
    const { rows, columns, n, agreed } = marginals(data);
    const chance = rows.reduce((total, row, label) => total + (row * at(columns, label)) / n, 0);
    return ratio(agreed - chance, n - chance, 'all rows are of one class and were predicted so');
  },
};

/** Kappa for classes in order: a confusion counts by how far the classes lie apart. */
const weightedKappa = (power: 1 | 2, key: string, name: string): LabelMetric => ({
  ...base,
  key,
  name,
  definition: `1 − observed / expected disagreement, each confusion weighed by the ${power === 1 ? 'distance' : 'squared distance'} of the classes in label order`,
  tasks: ['multiclass'],
  compute: (data) => {
    const { rows, columns, n } = marginals(data);
    let observed = 0;
    let expected = 0;
    confusionCounts(data).forEach((row, truth) =>
      row.forEach((count, predicted) => {
        const distance = Math.abs(truth - predicted) ** power;
        observed += distance * count;
        expected += (distance * at(rows, truth) * at(columns, predicted)) / n;
      }),
    );
    return ratio(expected - observed, expected, 'all rows are of one class and were predicted so');
  },
});

export const linearKappa = weightedKappa(1, 'kappa_linear', 'linearly weighted kappa');
export const quadraticKappa = weightedKappa(2, 'kappa_quadratic', 'quadratically weighted kappa');
