import { SieveError } from '../../../foundation/errors.js';
import { at, count } from '../../../foundation/numbers.js';
import type { BoostingState } from '../../../models/boosting/boosting-form.js';
import type { Fitted } from '../../../models/fitted.js';
import type { ForestState } from '../../../models/forest/forest-form.js';
import { hasLevel, type CompactTree } from '../../../models/trees/compact-tree.js';
import { encoded, softmaxOf } from './encoded.js';
import { doubles, ML, type GraphBuilder } from './graph-builder.js';
import { TensorProto_DataType } from './schema.js';

const { DOUBLE } = TensorProto_DataType;

const refused = (what: string) => new SieveError('model-file', `${what} cannot be written as ONNX.`);

/** Nodes, and columns that splits by levels need, which a file may have. */
const MOST_NODES = 200_000;
const MOST_COLUMNS = 2000;

/**
 * A forest: the mean of its trees.
 *
 * @returns the name of n rows of shares, or of one number
 * @throws SieveError `model-file` where it is too large
 */
export function forest(graph: GraphBuilder, fitted: Fitted, { trees, classes }: ForestState): string {
  const outputs = Math.max(1, classes);
  return sumOfTrees(graph, fitted, trees, outputs, (tree, place) =>
    Array.from({ length: outputs }, (_, target) => ({
      target,
      weight: (tree.values[place * outputs + target] ?? 0) / trees.length,
    })),
  );
}

/**
 * Boosting: sums of its trees, and for classes the shares that they stand for.
 *
 * @returns the name of n rows of shares, or of one number
 * @throws SieveError `model-file` where it is too large
 */
export function boosted(graph: GraphBuilder, fitted: Fitted, state: BoostingState): string {
  const { trees, starts, scores, positive } = state;
  const targetOf = new Map(trees.map((tree, t) => [tree, t % starts.length]));
  const summed = sumOfTrees(graph, fitted, trees, starts.length, (tree, place) => [
    { target: targetOf.get(tree) ?? 0, weight: tree.values[place] ?? 0 },
  ]);
  const own = graph.add('Add', [summed, graph.tensor(starts, [starts.length])]);
  if (scores === 'numbers') return own;
  return softmaxOf(graph, own, scores === 'classes' ? null : positive);
}

/** Trees whose leaves add to targets. @returns the name of n rows of doubles, one column for each target */
function sumOfTrees(
  graph: GraphBuilder,
  { recipe }: Fitted,
  trees: readonly CompactTree[],
  targets: number,
  leavesOf: (tree: CompactTree, place: number) => readonly { target: number; weight: number }[],
): string {
  const size = trees.reduce((sum, { columns }) => sum + columns.length, 0);
  if (size > MOST_NODES)
    throw refused(`A model of ${count(size)} nodes, more than ${count(MOST_NODES)}: with so many it`);
  const columns: string[] = [];
  const placeOf = new Map<string, number>();
  /** A number as it is; of levels a column that is 0 for those that go low, and 1 for the others. */
  const columnFor = (column: number, set: number, missingHigh: boolean): number => {
    const feature = at(recipe.features, column);
    const isLevels = feature.kind === 'category';
    const key = isLevels ? `${column} ${set} ${String(missingHigh)}` : String(column);
    const known = placeOf.get(key);
    if (known !== undefined) return known;
    const name = isLevels
      ? encoded(
          graph,
          feature,
          feature.levels.map((_, level) => (hasLevel(set, level) ? 0 : 1)),
          missingHigh ? 1 : 0,
        )
      : feature.name;
    const place = columns.push(name) - 1;
    if (place >= MOST_COLUMNS)
      throw refused(`A model of more than ${count(MOST_COLUMNS)} different splits by levels`);
    placeOf.set(key, place);
    return place;
  };
  const nodes = trees.flatMap((tree, t) =>
    Array.from({ length: tree.columns.length }, (_, place) => {
      const column = tree.columns[place] ?? -1;
      const isLeaf = column < 0;
      const set = tree.thresholds[place] ?? 0;
      const missingHigh = tree.missingHigh[place] === 1;
      const isNumber = !isLeaf && at(recipe.features, column).kind === 'number';
      const low = tree.lows[place] ?? 0;
      return {
        tree: t,
        place,
        isLeaf,
        column: isLeaf ? 0 : columnFor(column, set, missingHigh),
        threshold: isLeaf ? 0 : isNumber ? set : 0.5,
        low: isLeaf ? 0 : low,
        high: isLeaf ? 0 : low + 1,
        missingIsLow: !missingHigh,
        leaves: isLeaf ? leavesOf(tree, place) : [],
      };
    }),
  );
  if (columns.length === 0) throw refused('A model of trees without a split');
  const leaves = nodes.flatMap(({ tree, place, leaves: own }) =>
    own.map((leaf) => ({ ...leaf, tree, place })),
  );
  const design = columns.length === 1 ? at(columns, 0) : graph.add('Concat', columns, { axis: 1 });
  const floats = graph.add(
    'TreeEnsembleRegressor',
    [design],
    {
      n_targets: targets,
      nodes_treeids: nodes.map(({ tree }) => tree),
      nodes_nodeids: nodes.map(({ place }) => place),
      nodes_featureids: nodes.map(({ column }) => column),
      nodes_modes: nodes.map(({ isLeaf }) => (isLeaf ? 'LEAF' : 'BRANCH_LEQ')),
      nodes_values_as_tensor: {
        tensor: doubles(
          nodes.map(({ threshold }) => threshold),
          [nodes.length],
        ),
      },
      nodes_truenodeids: nodes.map(({ low }) => low),
      nodes_falsenodeids: nodes.map(({ high }) => high),
      nodes_missing_value_tracks_true: nodes.map(({ missingIsLow }) => Number(missingIsLow)),
      target_treeids: leaves.map(({ tree }) => tree),
      target_nodeids: leaves.map(({ place }) => place),
      target_ids: leaves.map(({ target }) => target),
      target_weights_as_tensor: {
        tensor: doubles(
          leaves.map(({ weight }) => weight),
          [leaves.length],
        ),
      },
    },
    ML,
  );
  return graph.add('Cast', [floats], { to: DOUBLE });
}
