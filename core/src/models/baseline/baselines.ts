import { constantForm, type ConstantState } from './constant-form.js';
import { classSharesStarter, meanStarter, medianStarter, mostFrequentStarter } from './starter.js';
import { quantile } from '../../foundation/numbers.js';
import { SieveError } from '../../foundation/errors.js';
import { modelFamily, type Learned } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import { asNumbers, classWeights } from '../prepared/target.js';

function learned(values: readonly number[]): Learned {
  const state: ConstantState = { form: 'constant', values };
  return { state, description: {}, warnings: [] };
}

function sharesOf({ target, weights }: Training): number[] {
  if (target.kind === 'numbers') throw new SieveError('model', 'A number has no classes.');
  const sums = classWeights(target, weights);
  const total = sums.reduce((a, b) => a + b, 0);
  return Array.from(sums, (sum) => sum / total);
}

/** scikit-learn's DummyClassifier and DummyRegressor, whose strategies these are. */
export const mostFrequent = modelFamily({
  key: 'most-frequent',
  title: 'the most frequent class',
  about: 'Predicts for every row the class of most training rows; of equal ones the first in label order.',
  source: 'scikit-learn, DummyClassifier with strategy most_frequent',
  tasks: ['binary', 'multiclass'],
  hyperparameters: [],
  forms: [constantForm],
  starter: mostFrequentStarter,
  parameters: {},
  sentence: () => 'fixed settings',
  fit: (training) => {
    const shares = sharesOf(training);
    const most = shares.indexOf(Math.max(...shares));
    return learned(shares.map((_, label) => (label === most ? 1 : 0)));
  },
});

export const classShares = modelFamily({
  key: 'class-shares',
  title: 'the shares of the classes',
  about: 'Gives every row the shares of the classes among the training rows as its probabilities.',
  source: 'scikit-learn, DummyClassifier with strategy prior',
  tasks: ['binary', 'multiclass'],
  hyperparameters: [],
  forms: [constantForm],
  starter: classSharesStarter,
  parameters: {},
  sentence: () => 'fixed settings',
  fit: (training) => learned(sharesOf(training)),
});

export const mean = modelFamily({
  key: 'mean',
  title: 'the mean',
  about: 'Predicts for every row the mean of the training rows.',
  source: 'scikit-learn, DummyRegressor with strategy mean',
  tasks: ['regression'],
  hyperparameters: [],
  forms: [constantForm],
  starter: meanStarter,
  parameters: {},
  sentence: () => 'fixed settings',
  fit: ({ target, weights }) => {
    const values = asNumbers(target);
    let [sum, total] = [0, 0];
    for (let i = 0; i < values.length; i++) {
      const weight = weights ? (weights[i] ?? 0) : 1;
      sum += weight * (values[i] ?? 0);
      total += weight;
    }
    return learned([sum / total]);
  },
});

export const median = modelFamily({
  key: 'median',
  title: 'the median',
  about:
    'Predicts for every row the median of the training rows; with row weights the value at which half of their sum is reached.',
  source: 'scikit-learn, DummyRegressor with strategy median',
  tasks: ['regression'],
  hyperparameters: [],
  forms: [constantForm],
  starter: medianStarter,
  parameters: {},
  sentence: () => 'fixed settings',
  fit: ({ target, weights }) => {
    const values = asNumbers(target);
    return learned([weights ? weightedMedian(values, weights) : quantile(values.slice().sort(), 0.5)]);
  },
});

function weightedMedian(values: Float64Array, weights: Float64Array): number {
  const order = Array.from(values.keys()).sort((a, b) => (values[a] ?? 0) - (values[b] ?? 0));
  const half = weights.reduce((a, b) => a + b, 0) / 2;
  let passed = 0;
  for (const row of order) {
    passed += weights[row] ?? 0;
    if (passed >= half) return values[row] ?? NaN;
  }
  return NaN;
}
