import { neighboursForm, type NeighboursState } from './neighbours-form.js';
import { nearestStarter } from './starter.js';
import { standardise } from '../linear/standardised.js';
import { modelFamily } from '../contract/family.js';
import type { Training } from '../contract/sample.js';

export const nearest = modelFamily({
  key: 'nearest',
  title: 'nearest neighbours',
  about:
    'The training rows that are nearest by the sum of squared differences of standardised features (deviation with n): the shares of their classes, or the mean of their numbers, each counting alike or by one over its distance. Of rows equally far away the earlier comes first. Few neighbours make a complex model: one neighbour knows every training row by heart.',
  source: 'scikit-learn, StandardScaler with KNeighborsClassifier and KNeighborsRegressor',
  tasks: ['binary', 'multiclass', 'regression'],
  hyperparameters: [
    { key: 'neighbours', larger: 'simple', settings: [1, 2, 3, 5, 8, 12, 20, 35, 60, 100], batched: true },
  ],
  forms: [neighboursForm],
  starter: nearestStarter,
  parameters: {
    neighbours: { type: 'number', label: 'number of neighbours', min: 1, max: 10_000, step: 1, start: 5 },
    weights: {
      type: 'choice',
      label: 'how neighbours count',
      choices: [
        { value: 'uniform', text: 'with equal weights' },
        { value: 'distance', text: 'weighted by distance' },
      ],
    },
  },
  sentence: () => '{neighbours} of them, {weights}',
  fit: (training, { neighbours, weights }) => ({
    state: stateOf(training, neighbours, weights === 'distance'),
    description: {},
    warnings:
      neighbours > training.rowCount
        ? [`There are only ${training.rowCount} training rows: all of them are neighbours.`]
        : [],
  }),
  fitPath: (training, { weights, ...values }, key, settings) => {
    if (key !== 'neighbours') return null;
    const all = stateOf(training, values.neighbours, weights === 'distance');
    return settings.map((neighbours) => ({ ...all, neighbours }));
  },
});

function stateOf(training: Training, neighbours: number, byDistance: boolean): NeighboursState {
  const { columns, means, deviations } = standardise(training.design(), null);
  const { target, weights } = training;
  return {
    form: 'neighbours',
    neighbours,
    byDistance,
    means,
    deviations,
    rows: columns,
    answers: target.kind === 'numbers' ? target.values : target.codes,
    weights,
    classes: target.kind === 'numbers' ? 0 : target.labels.length,
  };
}
