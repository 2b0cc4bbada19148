import { seededRandom } from '../../foundation/random/random.js';
import { absent } from '../contract/absent.js';
import type { Importance } from '../contract/description.js';
import { modelFamily } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import { NodeBudget, treeInputs, type CompactTree } from '../trees/compact-tree.js';
import { importancesByFeature } from '../trees/importances.js';
import { ClassSums } from '../trees/node-sums.js';
import { NumberSums } from '../trees/number-sums.js';
import { rankColumns } from '../trees/ranks.js';
import { forestForm, type ForestState } from './forest-form.js';
import { ForestGrower } from './grow.js';
import { OutOfBag } from './out-of-bag.js';
import { forestStarter } from './starter.js';

interface Values {
  readonly trees: number;
  readonly features_per_split: number;
  readonly rows_per_leaf: number;
  readonly depth: number;
  readonly rows: 'drawn' | 'all';
  readonly share: number;
  readonly thresholds: 'best' | 'random';
}

/** Columns that are tried at a node where none are asked for: as scikit-learn begins. */
const usualColumns = (columns: number, isNumbers: boolean): number =>
  isNumbers ? columns : Math.max(1, Math.floor(Math.sqrt(columns)));

interface Grown {
  readonly trees: readonly CompactTree[];
  /** After each tree; null where no row is left out of a tree. */
  readonly outOfBag: readonly number[] | null;
  readonly importances: readonly Importance[];
}

/** Grows the trees; each has a stream of random numbers of its own, so that a smaller forest is the beginning of a larger one. */
function growForest(training: Training, values: Values): Grown {
  const { target, rowCount, features } = training;
  const inputs = treeInputs(features);
  const columns = rankColumns(inputs);
  const rowWeights = training.weights ?? new Float64Array(rowCount).fill(1);
  const weights = rowWeights.slice();
  const sizes = { rows: rowCount, levels: inputs.levels.reduce((most, levels) => Math.max(most, levels), 1) };
  const sums =
    target.kind === 'numbers'
      ? new NumberSums(target.values, weights, sizes)
      : new ClassSums(target.codes, target.labels.length, weights, sizes);
  const grower = new ForestGrower(
    columns,
    sums,
    {
      columnsPerSplit: Math.min(
        columns.length,
        values.features_per_split || usualColumns(columns.length, target.kind === 'numbers'),
      ),
      rowsPerLeaf: values.rows_per_leaf,
      depth: values.depth,
      thresholds: values.thresholds,
    },
    rowCount,
  );
  const seed = training.random.bits() | 0;
  const outOfBag = values.rows === 'drawn' ? new OutOfBag(target, rowWeights, inputs) : null;
  const isIn = new Uint8Array(rowCount);
  const errors: number[] = [];
  const gains = new Float64Array(columns.length);
  const budget = new NodeBudget();
  const trees = Array.from({ length: values.trees }, (_, tree): CompactTree => {
    const random = seededRandom(seed, `tree ${tree}`);
    if (values.rows === 'drawn') {
      weights.fill(0);
      const draws = Math.max(1, Math.round((rowCount * values.share) / 100));
      for (let draw = 0; draw < draws; draw++) {
        const row = random.below(rowCount);
        weights[row] = (weights[row] ?? 0) + (rowWeights[row] ?? 0);
      }
    }
    let members = 0;
    for (let row = 0; row < rowCount; row++) {
      isIn[row] = (weights[row] ?? 0) > 0 ? 1 : 0;
      members += isIn[row] ?? 0;
    }
    // Only rows that weigh nothing may have been drawn.
    if (members === 0) {
      weights.set(rowWeights);
      for (let row = 0; row < rowCount; row++) isIn[row] = (weights[row] ?? 0) > 0 ? 1 : 0;
    }
    const rows = Int32Array.from(isIn.keys()).filter((row) => isIn[row] === 1);
    const own = new Float64Array(columns.length);
    const grown = grower.grow(rows, random, own);
    budget.spend(grown, 'trees');
    // Each tree counts alike, however much its rows weigh.
    const total = own.reduce((sum, gain) => sum + gain, 0);
    if (total > 0) own.forEach((gain, column) => (gains[column] = (gains[column] ?? 0) + gain / total));
    if (outOfBag) errors.push(outOfBag.add(grown, isIn));
    return grown;
  });
  return {
    trees,
    outOfBag: outOfBag ? errors : null,
    importances: importancesByFeature(inputs.features, gains),
  };
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
    depth: { type: 'number', label: 'depth', min: 1, max: 60, step: 1, start: 60 },
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
