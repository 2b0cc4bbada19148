import { at } from '../../foundation/numbers.js';
import { absent } from '../contract/absent.js';
import type { Growth } from '../contract/description.js';
import { modelFamily } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import { standardise } from '../linear/standardised.js';
import { partForStopping } from '../prepared/held-part.js';
import type { Target } from '../prepared/target.js';
import type { NetworkRows } from './batch.js';
import { layersFrom, type Activation } from './layers.js';
import { networkForm, type NetworkState } from './network-form.js';
import { networkStarter } from './starter.js';
import { trainNetwork, type TrainedNetwork } from './training.js';

interface Values {
  readonly layers: string;
  readonly activation: Activation;
  readonly epochs: number;
  readonly batch: number;
  readonly learning_rate: number;
  readonly optimiser: 'adam' | 'gradient';
  readonly decay: number;
  readonly dropout: number;
  readonly patience: number;
  readonly validation: number;
}

/** What a network is to say of each row, the outputs of a row side by side: a number, a chance, or one chance for each class. */
function answersOf(target: Target, numbers: Float64Array): { outputs: number; answers: Float64Array } {
  if (target.kind === 'numbers') return { outputs: 1, answers: numbers };
  const { codes, labels, positive } = target;
  if (positive !== null)
    return { outputs: 1, answers: Float64Array.from(codes, (code) => (code === positive ? 1 : 0)) };
  const outputs = labels.length;
  const answers = new Float64Array(codes.length * outputs);
  codes.forEach((code, row) => (answers[row * outputs + code] = 1));
  return { outputs, answers };
}

/** Some rows of a training. */
function rowsOf(
  columns: readonly Float64Array[],
  answers: Float64Array,
  outputs: number,
  weights: Float64Array,
  rows: Int32Array,
): NetworkRows {
  const width = columns.length;
  const inputs = new Float64Array(rows.length * width);
  columns.forEach((column, c) => {
    rows.forEach((row, i) => (inputs[i * width + c] = column[row] ?? 0));
  });
  const own = new Float64Array(rows.length * outputs);
  rows.forEach((row, i) => own.set(answers.subarray(row * outputs, (row + 1) * outputs), i * outputs));
  return {
    inputs,
    answers: own,
    weights: Float64Array.from(rows, (row) => at(weights, row)),
    count: rows.length,
  };
}

function train(training: Training, values: Values): { state: NetworkState; trained: TrainedNetwork } {
  const { target, random, rowCount } = training;
  const layers = layersFrom(values.layers);
  const scaled = standardise(training.design(), training.weights);
  const isNumbers = target.kind === 'numbers';
  const numbers = isNumbers
    ? standardise({ rowCount, terms: [], columns: [target.values] }, training.weights)
    : null;
  const { outputs, answers } = answersOf(target, numbers ? at(numbers.columns, 0) : new Float64Array());
  const weights = training.weights ?? new Float64Array(rowCount).fill(1);
  const percent = values.patience > 0 ? values.validation : null;
  const { learned: own, held } = partForStopping(weights, percent, random);
  const taken = (rows: Int32Array) => rowsOf(scaled.columns, answers, outputs, weights, rows);
  const learned = taken(own);
  const trained = trainNetwork(
    learned,
    held && taken(held),
    outputs,
    {
      layers,
      activation: values.activation,
      isNumbers,
      epochs: values.epochs,
      batch: values.batch === 0 ? learned.count : values.batch,
      rate: values.learning_rate,
      optimiser: values.optimiser,
      decay: values.decay,
      dropout: values.dropout / 100,
      patience: values.patience,
    },
    random,
  );
  return {
    state: {
      form: 'network',
      means: scaled.means,
      deviations: scaled.deviations,
      layers: trained.layers,
      activation: values.activation,
      classes: isNumbers ? 0 : target.labels.length,
      positive: isNumbers ? null : target.positive,
      mean: numbers ? at(numbers.means, 0) : 0,
      deviation: numbers ? at(numbers.deviations, 0) : 1,
    },
    trained,
  };
}

/** Squared errors in the target's own units. */
const inUnits = (losses: readonly number[], { classes, deviation }: NetworkState): number[] =>
  losses.map((loss) => (classes === 0 ? loss * deviation ** 2 : loss));

export const network = modelFamily({
  key: 'network',
  title: 'a neural network',
  about:
    'Layers of units, each the weighted sum of all units of the layer before, cut at 0 (ReLU) or bent (tanh). It is trained in batches, one epoch after another, along the gradient of the squared error of standardised numbers, or of the cross-entropy of classes. Columns are standardised first (deviation with n). Dropout leaves some units out of every step; weight decay keeps weights small. Where the loss of a part of the training rows, held out, does not fall for some epochs, it stops and keeps the best epoch; 0 stands for no such part. More units and epochs make a more complex model.',
  source: 'scikit-learn, StandardScaler with MLPClassifier and MLPRegressor',
  tasks: ['binary', 'multiclass', 'regression'],
  hyperparameters: [
    { key: 'epochs', larger: 'complex', settings: [1, 2, 5, 10, 20, 50, 100, 200] },
    { key: 'learning_rate', larger: 'complex', settings: [0.0001, 0.0003, 0.001, 0.003, 0.01, 0.03, 0.1] },
    { key: 'decay', larger: 'simple', settings: [0, 0.001, 0.01, 0.1, 1, 10, 100] },
    { key: 'dropout', larger: 'simple', settings: [0, 10, 20, 30, 40, 50, 60] },
  ],
  forms: [networkForm],
  starter: networkStarter,
  parameters: {
    layers: { type: 'text', label: 'units of the hidden layers', start: '20' },
    activation: {
      type: 'choice',
      label: 'activation',
      choices: [
        { value: 'relu', text: 'cut at 0 (ReLU)' },
        { value: 'tanh', text: 'bent (tanh)' },
      ],
    },
    epochs: { type: 'number', label: 'epochs', min: 1, max: 10_000, step: 1, start: 200 },
    batch: { type: 'number', label: 'rows of a batch', min: 0, max: 1e6, step: 1, start: 200 },
    learning_rate: { type: 'number', label: 'learning rate', min: 1e-7, max: 10, start: 0.001 },
    optimiser: {
      type: 'choice',
      label: 'optimiser',
      choices: [
        { value: 'adam', text: 'Adam' },
        { value: 'gradient', text: 'plain gradient descent' },
      ],
    },
    decay: { type: 'number', label: 'weight decay', min: 0, max: 1e6, start: 0.0001 },
    dropout: { type: 'number', label: 'dropout', min: 0, max: 90, unit: '%', start: 0 },
    patience: { type: 'number', label: 'epochs without gain', min: 0, max: 1000, step: 1, start: 0 },
    validation: {
      type: 'number',
      label: 'held out to see when to stop',
      min: 1,
      max: 50,
      unit: '%',
      start: 10,
    },
  },
  sentence: ({ patience }) =>
    `layers of {layers} units, {activation}; {epochs} epochs of {optimiser} at a learning rate of {learning_rate}, {batch} rows of a batch (0: all), weight decay {decay}, dropout {dropout}, stopped after {patience} epochs without gain${patience === 0 ? ' (0: never)' : ' on {validation} of the training rows'}`,
  fit: (training, values) => {
    const { state, trained } = train(training, values);
    const { diverged, epochs, heldOut } = trained;
    const growth: Growth = {
      of: 'epochs',
      measure: state.classes === 0 ? 'mean squared error' : 'log loss',
      training: inUnits(trained.training, state),
      heldOut: heldOut && { rows: 'validation', values: inUnits(heldOut, state) },
    };
    return {
      state,
      description: { growth, figures: { epochs } },
      warnings: [
        ...absent(training),
        ...(diverged === null
          ? []
          : [
              `The network diverged in epoch ${diverged}: its loss was no longer a number. It is kept as it was after epoch ${epochs}; a lower learning rate helps.`,
            ]),
      ],
    };
  },
});
