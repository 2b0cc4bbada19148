import { absent } from '../contract/absent.js';
import type { Importance } from '../contract/description.js';
import { modelFamily } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import { NodeBudget, treeInputs, type CompactTree, type TreeInputs } from '../trees/compact-tree.js';
import { importancesByFeature } from '../trees/importances.js';
import { forestForm, type ForestState } from './forest-form.js';
import { OutOfBag } from './out-of-bag.js';
import { forestStarter } from './starter.js';
import { growTreesTask, RowDraws, type ForestValues, type TreesToGrow } from './trees.js';

interface Grown {
  readonly trees: readonly CompactTree[];
  /** After each tree; null where no row is left out of a tree. */
  readonly outOfBag: readonly number[] | null;
  readonly importances: readonly Importance[];
}

/** Work, in trees times values, that is worth a second thread. */
const WORTH_A_THREAD = 2e6;

/** The forest in pieces that grow at the same time. */
function piecesOf(training: Training, values: ForestValues, seed: number): TreesToGrow[] {
  const { features, rowCount, target, weights, helpers } = training;
  const work = values.trees * features.length * rowCount;
  const count = Math.min(helpers?.size ?? 1, values.trees, Math.max(1, Math.floor(work / WORTH_A_THREAD)));
  return Array.from({ length: count }, (_, piece) => ({
    features,
    rowCount,
    target,
    weights,
    values,
    seed,
    from: Math.round((values.trees * piece) / count),
    to: Math.round((values.trees * (piece + 1)) / count),
  }));
}

/**
 * Grows the trees; each has a stream of random numbers of its own, so that a smaller forest is the beginning of a larger one, and
 * threads that help change nothing.
 */
function growForest(training: Training, values: ForestValues): Grown {
  const seed = training.random.bits() | 0;
  const pieces = piecesOf(training, values, seed);
  const grown =
    pieces.length > 1 && training.helpers
      ? training.helpers.runTogether(growTreesTask, pieces)
      : pieces.map(growTreesTask.run);
  const trees = grown.flatMap((piece) => piece.trees);
  const budget = new NodeBudget();
  for (const tree of trees) budget.spend(tree, 'trees');
  const inputs = treeInputs(training.features);
  const gains = new Float64Array(inputs.features.length);
  for (const own of grown.flatMap((piece) => piece.gains))
    own.forEach((gain, column) => (gains[column] = (gains[column] ?? 0) + gain));
  return {
    trees,
    outOfBag: values.rows === 'drawn' ? outOfBagErrors(training, values, seed, inputs, trees) : null,
    importances: importancesByFeature(inputs.features, gains),
  };
}

/** The out-of-bag error after each tree. */
function outOfBagErrors(
  training: Training,
  values: ForestValues,
  seed: number,
  inputs: TreeInputs,
  trees: readonly CompactTree[],
): number[] {
  const draws = new RowDraws(training, values, seed);
  const weights = training.weights ?? new Float64Array(training.rowCount).fill(1);
  const outOfBag = new OutOfBag(training.target, weights, inputs);
  return trees.map((tree, place) => {
    draws.draw(place);
    return outOfBag.add(tree, draws.isIn);
  });
}

const stateOf = ({ target }: Training, trees: readonly CompactTree[]): ForestState => ({
  form: 'forest',
  trees,
  classes: target.kind === 'numbers' ? 0 : target.labels.length,
});

export const randomForest = modelFamily({
  key: 'forest',
  title: 'a random forest',
  about:
    'The mean of many decision trees, each grown on rows drawn with replacement, with the best of a few columns drawn for every node; 0 columns stand for the square root of their number where classes are predicted, and for all of them where numbers are. Shares of classes are averaged. The rows that a tree has not seen show its error: the out-of-bag error. With thresholds drawn at random instead of the best they are extra trees; with all columns at every node it is bagging of trees. More trees steady a forest and do not overfit it. Rows with a missing value follow most rows.',
  source:
    'Breiman, Random Forests (2001); scikit-learn, RandomForestClassifier, RandomForestRegressor, ExtraTreesClassifier',
  tasks: ['binary', 'multiclass', 'regression'],
  hyperparameters: [
    { key: 'trees', larger: 'complex', settings: [1, 2, 5, 10, 20, 35, 60, 100, 150, 200], batched: true },
    { key: 'rows_per_leaf', larger: 'simple', settings: [1, 2, 3, 5, 8, 12, 20, 35, 60, 100] },
    { key: 'features_per_split', larger: 'complex', settings: [1, 2, 3, 5, 8, 12] },
    { key: 'depth', larger: 'complex', settings: [1, 2, 3, 4, 6, 8, 12, 16, 24] },
  ],
  forms: [forestForm],
  starter: forestStarter,
  parameters: {
    trees: { type: 'number', label: 'number of trees', min: 1, max: 2000, step: 1, start: 100 },
    features_per_split: {
      type: 'number',
      label: 'columns tried at a split',
      min: 0,
      max: 10_000,
      step: 1,
      start: 0,
    },
    rows_per_leaf: { type: 'number', label: 'rows in a leaf', min: 1, max: 1e6, step: 1, start: 1 },
    depth: { type: 'number', label: 'depth', min: 1, max: 200, step: 1, start: 60 },
    rows: {
      type: 'choice',
      label: 'rows of a tree',
      choices: [
        { value: 'drawn', text: 'drawn with replacement' },
        { value: 'all', text: 'all of them' },
      ],
    },
    share: { type: 'number', label: 'rows drawn', min: 1, max: 100, unit: '%', start: 100 },
    thresholds: {
      type: 'choice',
      label: 'thresholds',
      choices: [
        { value: 'best', text: 'the best' },
        { value: 'random', text: 'drawn at random' },
      ],
    },
  },
  sentence: ({ rows }) =>
    `{trees} trees, {features_per_split} columns tried at a split (0: the usual number), at least {rows_per_leaf} rows in a leaf; depth {depth}, rows of a tree {rows}${rows === 'drawn' ? ', {share} of the training rows' : ''}, thresholds {thresholds}`,
  fit: (training, values) => {
    const { trees, outOfBag, importances } = growForest(training, values);
    return {
      state: stateOf(training, trees),
      description: {
        importances,
        ...(outOfBag
          ? {
              growth: {
                of: 'trees',
                measure: training.target.kind === 'numbers' ? 'mean squared error' : 'error rate',
                training: null,
                heldOut: {
                  rows: 'out of bag',
                  values: outOfBag.map((error) => (Number.isNaN(error) ? null : error)),
                },
              },
            }
          : {}),
      },
      warnings: absent(training),
    };
  },
  fitPath: (training, values, key, settings) => {
    if (key !== 'trees') return null;
    const { trees } = growForest(training, { ...values, trees: Math.max(...settings) });
    return settings.map((count) => stateOf(training, trees.slice(0, count)));
  },
});
