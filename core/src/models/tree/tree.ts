import { treeForm } from './form.js';
import { leafCount, type TreeNode, type TreeState } from './state.js';
import { treeStarter } from './starter.js';
import { modelFamily } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import { growTree } from './grow.js';
import { pruneByCost, pruneByErrors, pruningPath } from './prune.js';

/** The deepest tree that may be grown. */
const DEEPEST = 200;
/** Points of a curve by pruning. */
const MOST_PENALTIES = 40;

interface Values {
  readonly criterion: 'gini' | 'entropy' | 'gain-ratio';
  readonly depth: number;
  readonly rows_per_leaf: number;
  readonly rows_per_split: number;
  readonly pruning: number;
  readonly errors: 'kept' | 'pruned';
  readonly branches: 'two' | 'each';
  readonly most_levels: number;
  readonly first: string;
  readonly missing: 'most' | 'stop';
}

const grown = (training: Training, values: Values, depth = values.depth): TreeNode[] =>
  growTree(training, {
    criterion: values.criterion,
    depth,
    rowsPerLeaf: values.rows_per_leaf,
    rowsPerSplit: values.rows_per_split,
    branches: values.branches,
    mostLevels: values.most_levels,
    first: values.first === '' ? null : values.first,
  });

function pruned(nodes: readonly TreeNode[], { errors, pruning }: Values, training: Training): TreeNode[] {
  const byCost = pruning > 0 ? pruneByCost(nodes, pruning) : [...nodes];
  return errors === 'pruned' && training.target.kind === 'classes' ? pruneByErrors(byCost) : byCost;
}

const stateOf = (training: Training, nodes: TreeNode[], { missing }: Values, depth = DEEPEST): TreeState => ({
  form: 'tree',
  nodes,
  depth,
  missing,
  classes: training.target.kind === 'numbers' ? 0 : training.target.labels.length,
});

export const decisionTree = modelFamily({
  key: 'tree',
  title: 'a decision tree',
  about:
    'Splits rows by one column after another where that leaves them least mixed: by Gini’s index, entropy or gain ratio for classes, by squared error for numbers. Thresholds lie half-way between two values. A category makes two branches, or one for each level. Rows with a missing value follow most rows while it grows; when it predicts they do so too, or stop at the node. A branch is pruned that gains less than the penalty for each of its leaves, or by estimated errors as C4.5 does.',
  source: 'scikit-learn, DecisionTreeClassifier and DecisionTreeRegressor; R, rpart; Quinlan, C4.5 (1993)',
  tasks: ['binary', 'multiclass', 'regression'],
  hyperparameters: [
    {
      key: 'depth',
      larger: 'complex',
      settings: Array.from({ length: 20 }, (_, d) => d + 1),
      batched: true,
    },
    { key: 'rows_per_leaf', larger: 'simple', settings: [1, 2, 3, 5, 8, 12, 20, 35, 60, 100, 200] },
    { key: 'pruning', larger: 'simple', settings: 'path', batched: true },
  ],
  forms: [treeForm],
  starter: treeStarter,
  parameters: {
    depth: { type: 'number', label: 'depth', min: 1, max: DEEPEST, step: 1, start: 30 },
    rows_per_leaf: { type: 'number', label: 'rows in a leaf', min: 1, max: 1e6, step: 1, start: 1 },
    rows_per_split: {
      type: 'number',
      label: 'rows of a node that is split',
      min: 2,
      max: 1e6,
      step: 1,
      start: 2,
    },
    criterion: {
      type: 'choice',
      label: 'criterion',
      choices: [
        { value: 'gini', text: 'Gini’s index' },
        { value: 'entropy', text: 'entropy' },
        { value: 'gain-ratio', text: 'gain ratio' },
      ],
    },
    pruning: { type: 'number', label: 'gain for each leaf', min: 0, start: 0 },
    errors: {
      type: 'choice',
      label: 'pruning by errors',
      choices: [
        { value: 'kept', text: 'pruned no further' },
        { value: 'pruned', text: 'pruned by estimated errors' },
      ],
    },
    branches: {
      type: 'choice',
      label: 'branches of a category',
      choices: [
        { value: 'two', text: 'two branches' },
        { value: 'each', text: 'a branch for each level' },
      ],
    },
    most_levels: { type: 'number', label: 'the most levels', min: 2, max: 1000, step: 1, start: 51 },
    first: { type: 'column', label: 'the first split', none: 'the best column' },
    missing: {
      type: 'choice',
      label: 'rows with a missing value',
      choices: [
        { value: 'most', text: 'go with most rows' },
        { value: 'stop', text: 'stop at the node' },
      ],
    },
  },
  sentence: () =>
    'depth {depth}, at least {rows_per_leaf} rows in a leaf; at least {rows_per_split} in a node that is split, by {criterion}, categories of at most {most_levels} levels in {branches}, first by {first}, branches pruned that gain less than {pruning} a leaf, {errors}, rows with a missing value {missing}',
  fit: (training, values) => {
    const nodes = pruned(grown(training, values), values, training);
    const state = stateOf(training, nodes, values);
    const depth = nodes.reduce((most, node) => Math.max(most, node.depth), 0);
    return { state, description: { figures: { leaves: leafCount(state), depth } }, warnings: [] };
  },
  path: (training, values) => {
    const path = pruningPath(grown(training, values));
    // Half-way between two penalties at which the tree changes, on their logarithmic scale (R, rpart: xval).
    const between = path
      .slice(1)
      .map((penalty, i) => Math.sqrt(penalty * (path[i + 2] ?? penalty * 4)))
      .filter((penalty) => penalty > 0)
      .reverse();
    const step = Math.max(1, between.length / MOST_PENALTIES);
    const thinned = between.filter((_, i) => Math.floor(i / step) !== Math.floor((i - 1) / step));
    return [...new Set([...thinned, 0])];
  },
  fitPath: (training, values, key, settings) => {
    if (key === 'depth' && values.pruning === 0 && values.errors === 'kept') {
      const nodes = grown(training, values, Math.max(...settings));
      return settings.map((depth) => stateOf(training, nodes, values, depth));
    }
    if (key === 'pruning') {
      const nodes = grown(training, values);
      return settings.map((pruning) =>
        stateOf(training, pruned(nodes, { ...values, pruning }, training), values),
      );
    }
    return null;
  },
});
