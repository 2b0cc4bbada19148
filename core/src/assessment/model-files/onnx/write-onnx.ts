import { boostingForm } from '../../../models/boosting/boosting-form.js';
import { isOf } from '../../../models/contract/state.js';
import { forestForm } from '../../../models/forest/forest-form.js';
import { linearForm, logitsForm } from '../../../models/linear/forms.js';
import { networkForm } from '../../../models/network/network-form.js';
import { machineForm } from '../../../models/vector-machine/machine-form.js';
import { modelFamilyOf } from '../../../models/registry.js';
import { SieveError } from '../../../foundation/errors.js';
import type { Fitted } from '../../../models/fitted.js';
import type { FeatureRecipe } from '../../../models/prepared/recipe.js';
import { treeForm } from '../../../models/tree/form.js';
import { isLeaf, type TreeSplit, type TreeState } from '../../../models/tree/state.js';
import { at } from '../../../foundation/numbers.js';
import { encoded, labelOf } from './encoded.js';
import { doubles, GraphBuilder, ML } from './graph-builder.js';
import { TensorProto_DataType } from './schema.js';
import { network, vectorMachine } from './write-layers.js';
import { boosted, forest } from './write-many.js';

const refused = (what: string) => new SieveError('model-file', `${what} cannot be written as ONNX.`);

const { DOUBLE, FLOAT, STRING } = TensorProto_DataType;

/**
 * A fitted model as ONNX (operator sets 15 and `ai.onnx.ml` 3), with an input of its own for each column: doubles, and
 * texts for categories. An empty text, and a number that is NaN, is a missing cell.
 *
 * @param dates names of the features that are dates, which the model counts in days
 * @throws SieveError `model-file` for a family or a feature that cannot be written
 */
export function writeOnnx(fitted: Fitted, dates: ReadonlySet<string>): Uint8Array {
  const { state, labels, recipe } = fitted;
  for (const { name, kind } of recipe.features) {
    if (kind === 'words') throw refused(`${name} is text: a model of its words`);
    if (dates.has(name)) throw refused(`${name} holds dates: a model of days`);
  }
  const graph = new GraphBuilder();
  for (const { name, kind } of recipe.features) graph.input(name, kind === 'number' ? DOUBLE : STRING);
  if (isOf(linearForm, state)) {
    if (labels.length > 0) throw refused('A line for classes');
    graph.output(sums(graph, recipe.features, [state.slopes], [state.intercept]), DOUBLE, 1);
  } else if (isOf(logitsForm, state)) {
    const odds = sums(graph, recipe.features, state.slopes, state.intercepts);
    const shares = graph.add('Softmax', [odds], { axis: 1 });
    shown(graph, shares, labels);
  } else if (isOf(treeForm, state)) tree(graph, fitted, state);
  else if (isOf(forestForm, state)) shown(graph, forest(graph, fitted, state), labels);
  else if (isOf(boostingForm, state)) shown(graph, boosted(graph, fitted, state), labels);
  else if (isOf(networkForm, state))
    shown(graph, network(graph, designOf(graph, recipe.features).design, state), labels);
  else if (isOf(machineForm, state))
    shown(graph, vectorMachine(graph, designOf(graph, recipe.features).design, state), labels);
  else throw refused(`A model of ${modelFamilyOf(fitted.model).title}`);
  return graph.bytes();
}

/** Numbers, or shares and the label of the largest. */
function shown(graph: GraphBuilder, found: string, labels: readonly string[]): void {
  if (labels.length > 0) graph.output(labelOf(graph, found, labels), STRING, null);
  graph.output(found, DOUBLE, Math.max(1, labels.length));
}

/** The design of a linear model times its slopes: n rows, one column for each list of slopes. */
function sums(
  graph: GraphBuilder,
  features: readonly FeatureRecipe[],
  slopes: readonly (readonly number[])[],
  intercepts: readonly number[],
): string {
  const { design, terms } = designOf(graph, features);
  // By term, then by sum.
  const weights = Array.from({ length: terms }, (_, term) => slopes.map((own) => own[term] ?? 0)).flat();
  const product = graph.add('MatMul', [design, graph.tensor(weights, [terms, slopes.length])]);
  return graph.add('Add', [product, graph.tensor(intercepts, [slopes.length])]);
}

/** n rows of numbers, one column for each term: missing cells filled, each level of a category after the first as 0 and 1. */
function designOf(
  graph: GraphBuilder,
  features: readonly FeatureRecipe[],
): { design: string; terms: number } {
  const columns = features.flatMap((feature): string[] => {
    if (feature.kind === 'number') {
      const fill = graph.tensor([feature.fill], [1]);
      return [graph.add('Where', [graph.add('IsNaN', [feature.name]), fill, feature.name])];
    }
    if (feature.kind === 'words') return [];
    return feature.levels.slice(1).map((_, l) =>
      encoded(
        graph,
        feature,
        feature.levels.map((__, level) => (level === l + 1 ? 1 : 0)),
        feature.fill === l + 1 ? 1 : 0,
      ),
    );
  });
  if (columns.length === 0) throw refused('A model without features');
  return { design: graph.add('Concat', columns, { axis: 1 }), terms: columns.length };
}

/**
 * A tree: numbers as they are, where a missing one follows most rows; of each split by levels a column of its own, which
 * says whether a row goes to the first child.
 */
function tree(graph: GraphBuilder, fitted: Fitted, state: TreeState): void {
  const { labels, recipe } = fitted;
  if (state.missing === 'stop') throw refused('A tree in which rows with a missing value stop');
  const features = new Map(recipe.features.map((feature) => [feature.name, feature]));
  const columns: string[] = [];
  const placeOf = new Map<string, number>();
  const columnFor = (split: TreeSplit): number => {
    if (split.kind === 'threshold') {
      const place = placeOf.get(split.name) ?? columns.push(split.name) - 1;
      placeOf.set(split.name, place);
      return place;
    }
    if (split.children.length !== 2) throw refused('A tree with a branch for each level');
    const feature = features.get(split.name);
    if (feature?.kind !== 'category') throw refused(`A split by ${split.name}`);
    const most = split.children.indexOf(split.most);
    const values = feature.levels.map((_, level) => {
      const child = split.childOf[level] ?? -1;
      return child < 0 ? most : child;
    });
    return columns.push(encoded(graph, feature, values, most)) - 1;
  };
  const used = new Map<number, number>();
  const order: number[] = [];
  const visit = (place: number) => {
    used.set(place, order.push(place) - 1);
    const node = at(state.nodes, place);
    if (!isLeaf(node, state)) node.split?.children.forEach(visit);
  };
  visit(0);
  const nodes = order.map((place) => {
    const node = at(state.nodes, place);
    const split = isLeaf(node, state) ? null : node.split;
    const child = (position: number) => (split ? (used.get(at(split.children, position)) ?? 0) : 0);
    return {
      node,
      isLeaf: split === null,
      column: split ? columnFor(split) : 0,
      // A row goes to the first child up to the threshold; of levels the column is 0 for it and 1 for the other.
      threshold: split?.kind === 'threshold' ? split.threshold : 0.5,
      low: child(0),
      high: child(1),
      missingIsLow: split ? split.children.indexOf(split.most) === 0 : false,
    };
  });
  if (columns.length === 0) throw refused('A tree of one leaf');
  const classes = Math.max(1, state.classes);
  const leaves = nodes.flatMap(({ node, isLeaf: ends }, place) =>
    ends
      ? Array.from({ length: classes }, (_, target) => ({
          place,
          target,
          weight: state.classes === 0 ? at(node.values, 0) : at(node.values, target) / node.rows,
        }))
      : [],
  );
  const prefix = state.classes === 0 ? 'target' : 'class';
  const attributes = {
    nodes_treeids: nodes.map(() => 0),
    nodes_nodeids: nodes.map((_, place) => place),
    nodes_featureids: nodes.map(({ column }) => column),
    nodes_modes: nodes.map(({ isLeaf: ends }) => (ends ? 'LEAF' : 'BRANCH_LEQ')),
    nodes_values_as_tensor: {
      tensor: doubles(
        nodes.map(({ isLeaf: ends, threshold }) => (ends ? 0 : threshold)),
        [nodes.length],
      ),
    },
    nodes_truenodeids: nodes.map(({ low }) => low),
    nodes_falsenodeids: nodes.map(({ high }) => high),
    nodes_missing_value_tracks_true: nodes.map(({ missingIsLow }) => (missingIsLow ? 1 : 0)),
    [`${prefix}_treeids`]: leaves.map(() => 0),
    [`${prefix}_nodeids`]: leaves.map(({ place }) => place),
    [`${prefix}_ids`]: leaves.map(({ target }) => target),
    [`${prefix}_weights_as_tensor`]: {
      tensor: doubles(
        leaves.map(({ weight }) => weight),
        [leaves.length],
      ),
    },
  };
  const design = columns.length === 1 ? at(columns, 0) : graph.add('Concat', columns, { axis: 1 });
  if (state.classes === 0) {
    graph.output(graph.add('TreeEnsembleRegressor', [design], { n_targets: 1, ...attributes }, ML), FLOAT, 1);
    return;
  }
  const [, shares = ''] = graph.addWith(
    'TreeEnsembleClassifier',
    [design],
    { classlabels_strings: labels, post_transform: 'NONE', ...attributes },
    ML,
    2,
  );
  // The operator's own label of two classes is another one in onnxruntime where weights are doubles.
  graph.output(labelOf(graph, shares, labels), STRING, null);
  graph.output(shares, FLOAT, labels.length);
}
