import { at } from '../../foundation/numbers.js';
import { absent } from '../contract/absent.js';
import type { Growth, Importance } from '../contract/description.js';
import { modelFamily } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import { partForStopping } from '../prepared/held-part.js';
import { targetRows } from '../prepared/target.js';
import { addTree, NodeBudget, treeInputs, type CompactTree, type TreeInputs } from '../trees/compact-tree.js';
import { importancesByFeature } from '../trees/importances.js';
import { leastGain } from './best-split.js';
import { binColumns, MOST_BINS } from './bins.js';
import { boostingForm, type BoostingState } from './boosting-form.js';
import { BoostedGrower } from './grow.js';
import { lossOf, type Loss } from './losses.js';
import { boostingStarter } from './starter.js';

interface Values {
  readonly rounds: number;
  readonly learning_rate: number;
  readonly leaves: number;
  readonly rows_per_leaf: number;
  readonly depth: number;
  readonly penalty: number;
  readonly bins: number;
  readonly patience: number;
  readonly validation: number;
  readonly loss: 'squared' | 'quantile';
  readonly level: number;
}

/** Rows by their place, as inputs of a tree. */
const inputsOf = (inputs: TreeInputs, rows: Int32Array): TreeInputs => ({
  ...inputs,
  values: inputs.values.map((values) => Float64Array.from(rows, (row) => values[row] ?? NaN)),
});

interface Boosted {
  readonly trees: readonly CompactTree[];
  readonly loss: Loss;
  readonly growth: Growth;
  readonly importances: readonly Importance[];
}

/** The scores of held-out rows and their loss, as trees are added. */
class HeldOut {
  private readonly scores: Float64Array[];
  private readonly loss: Loss;
  private readonly inputs: TreeInputs;

  constructor(
    training: Training,
    all: TreeInputs,
    rows: Int32Array,
    level: number | null,
    starts: readonly number[],
  ) {
    const weights = Float64Array.from(rows, (row) => training.weights?.[row] ?? 1);
    this.loss = lossOf(targetRows(training.target, rows), weights, level);
    this.scores = starts.map((start) => new Float64Array(rows.length).fill(start));
    this.inputs = inputsOf(all, rows);
  }

  /** Takes up the trees of a round. @returns the loss after it */
  add(trees: readonly CompactTree[]): number {
    trees.forEach((tree, k) => addTree(tree, this.inputs, [at(this.scores, k)]));
    return this.loss.measured(this.scores);
  }
}

/** A tree whose leaves say so many times what they said. */
const scaled = (tree: CompactTree, factor: number): CompactTree => ({
  ...tree,
  values: Float64Array.from(tree.values, (value) => value * factor),
});

function boost(training: Training, values: Values): Boosted {
  const { target, features } = training;
  const level = values.loss === 'quantile' && target.kind === 'numbers' ? values.level / 100 : null;
  const all = treeInputs(features);
  const allWeights = training.weights ?? new Float64Array(training.rowCount).fill(1);
  const percent = values.patience > 0 ? values.validation : null;
  const { learned, held } = partForStopping(allWeights, percent, training.random);
  const columns = binColumns(inputsOf(all, learned), values.bins);
  const weights = Float64Array.from(learned, (row) => at(allWeights, row));
  const loss = lossOf(targetRows(target, learned), weights, level);
  const { outputs, starts } = loss;
  const empty = () => starts.map(() => new Float64Array(learned.length));
  const [scores, gradients, hessians, steps] = [empty(), empty(), empty(), empty()];
  scores.forEach((own, k) => own.fill(at(starts, k)));
  const grower = new BoostedGrower(columns, Int32Array.from(learned.keys()), {
    leaves: values.leaves,
    depth: values.depth,
    learningRate: values.learning_rate,
    rowsPerLeaf: values.rows_per_leaf,
    penalty: values.penalty,
  });
  const heldOut = held && new HeldOut(training, all, held, level, starts);
  const trees: CompactTree[] = [];
  const trainingLoss: number[] = [];
  const heldLoss: number[] = [];
  const gains = new Float64Array(columns.length);
  let current = loss.derive(scores, gradients, hessians);
  const least = gradients.map((own, k) => leastGain(own, at(hessians, k)));
  const budget = new NodeBudget();
  let best = { loss: Infinity, rounds: 0 };
  const move = (by: number) =>
    scores.forEach((own, k) => {
      const step = at(steps, k);
      for (let i = 0; i < own.length; i++) own[i] = (own[i] ?? 0) + by * (step[i] ?? 0);
    });
  for (let round = 0; round < values.rounds; round++) {
    let grown = scores.map((own, k) =>
      grower.grow(
        {
          gradients: at(gradients, k),
          hessians: at(hessians, k),
          leastGain: at(least, k),
          leaf: loss.leaf && ((rows, from, to) => loss.leaf?.(own, rows, from, to) ?? 0),
        },
        at(steps, k),
        gains,
      ),
    );
    move(1);
    let after = loss.derive(scores, gradients, hessians);
    // A step of Newton's may go too far: then it is halved until the loss does not rise.
    let factor = 1;
    while (after > current && factor > 0) {
      const next = factor > 1e-6 ? factor / 2 : 0;
      move(next - factor);
      factor = next;
      after = factor > 0 ? loss.derive(scores, gradients, hessians) : current;
    }
    if (factor === 0) loss.derive(scores, gradients, hessians);
    if (factor < 1) grown = grown.map((tree) => scaled(tree, factor));
    current = after;
    for (const tree of grown) budget.spend(tree, 'rounds');
    trees.push(...grown);
    trainingLoss.push(current);
    if (!heldOut) continue;
    const own = heldOut.add(grown);
    heldLoss.push(own);
    if (own < best.loss - 1e-7) best = { loss: own, rounds: round + 1 };
    else if (round + 1 - best.rounds >= values.patience) break;
  }
  return {
    trees: heldOut ? trees.slice(0, best.rounds * outputs) : trees,
    loss,
    growth: {
      of: 'rounds',
      measure: loss.measure,
      training: trainingLoss,
      heldOut: heldOut ? { rows: 'validation', values: heldLoss } : null,
    },
    importances: importancesByFeature(all.features, gains),
  };
}

function stateOf({ target }: Training, { loss }: Boosted, trees: readonly CompactTree[]): BoostingState {
  const ofClasses = loss.outputs === 1 ? 'log-odds' : 'classes';
  return {
    form: 'boosting',
    trees,
    starts: loss.starts,
    scores: target.kind === 'numbers' ? 'numbers' : ofClasses,
    positive: target.kind === 'numbers' ? null : target.positive,
  };
}

export const boosting = modelFamily({
  key: 'boosting',
  title: 'gradient boosting',
  about:
    'Small trees one after another, each fitted to what the ones before left wrong, and added by a share, the learning rate. Values stand in bins, so that a split is found quickly; the leaf that gains most is split first. Rows with a missing value go to the side where they help more. Numbers are fitted by squared error, or at a quantile; classes by log loss. Where the loss of a part of the training rows, held out, does not fall for some rounds, it stops and keeps the best round; 0 rounds without gain stand for no such part. More rounds make a more complex model.',
  source:
    'Friedman, Greedy function approximation (2001); Ke and others, LightGBM (2017); scikit-learn, HistGradientBoostingClassifier and HistGradientBoostingRegressor',
  tasks: ['binary', 'multiclass', 'regression'],
  hyperparameters: [
    {
      key: 'rounds',
      larger: 'complex',
      settings: [1, 2, 5, 10, 20, 35, 60, 100, 150, 200, 300],
      batched: true,
    },
    { key: 'learning_rate', larger: 'complex', settings: [0.01, 0.02, 0.05, 0.1, 0.2, 0.4, 0.8] },
    { key: 'leaves', larger: 'complex', settings: [2, 3, 5, 8, 15, 31, 63] },
    { key: 'rows_per_leaf', larger: 'simple', settings: [1, 2, 5, 10, 20, 50, 100] },
    { key: 'penalty', larger: 'simple', settings: [0, 0.1, 1, 3, 10, 30, 100] },
  ],
  forms: [boostingForm],
  starter: boostingStarter,
  parameters: {
    rounds: { type: 'number', label: 'rounds', min: 1, max: 5000, step: 1, start: 100 },
    learning_rate: { type: 'number', label: 'learning rate', min: 0.0001, max: 1, start: 0.1 },
    leaves: { type: 'number', label: 'leaves of a tree', min: 2, max: 1000, step: 1, start: 31 },
    rows_per_leaf: { type: 'number', label: 'rows in a leaf', min: 1, max: 1e6, step: 1, start: 20 },
    depth: { type: 'number', label: 'depth', min: 1, max: 200, step: 1, start: 60 },
    penalty: { type: 'number', label: 'penalty on leaves (L2)', min: 0, start: 0 },
    bins: { type: 'number', label: 'bins of a column', min: 2, max: MOST_BINS, step: 1, start: MOST_BINS },
    patience: { type: 'number', label: 'rounds without gain', min: 0, max: 1000, step: 1, start: 0 },
    validation: {
      type: 'number',
      label: 'held out to see when to stop',
      min: 1,
      max: 50,
      unit: '%',
      start: 10,
    },
    loss: {
      type: 'choice',
      label: 'loss of numbers',
      choices: [
        { value: 'squared', text: 'squared error' },
        { value: 'quantile', text: 'a quantile' },
      ],
    },
    level: { type: 'number', label: 'level of the quantile', min: 1, max: 99, unit: '%', start: 50 },
  },
  sentence: ({ loss, patience }) =>
    `{rounds} rounds at a learning rate of {learning_rate}, {leaves} leaves of a tree, at least {rows_per_leaf} rows in a leaf; depth {depth}, penalty {penalty}, {bins} bins of a column, stopped after {patience} rounds without gain${patience === 0 ? ' (0: never)' : ' on {validation} of the training rows'}, numbers by {loss}${loss === 'quantile' ? ' at {level}' : ''}`,
  fit: (training, values) => {
    const boosted = boost(training, values);
    const { growth, importances, trees, loss } = boosted;
    return {
      state: stateOf(training, boosted, trees),
      description: { growth, importances, figures: { rounds: trees.length / loss.outputs } },
      warnings: absent(training),
    };
  },
  fitPath: (training, values, key, settings) => {
    if (key !== 'rounds' || values.patience > 0) return null;
    const boosted = boost(training, { ...values, rounds: Math.max(...settings) });
    return settings.map((rounds) =>
      stateOf(training, boosted, boosted.trees.slice(0, rounds * boosted.loss.outputs)),
    );
  },
});
