import { SieveError } from '../../../foundation/errors.js';
import { at, count } from '../../../foundation/numbers.js';
import type { BoostingState } from '../../../models/boosting/boosting-form.js';
import type { CombinedState } from '../../../models/combined/combined-form.js';
import type { ModelState } from '../../../models/contract/state.js';
import type { Fitted } from '../../../models/fitted.js';
import type { ForestState } from '../../../models/forest/forest-form.js';
import { hasLevel, type CompactTree } from '../../../models/trees/compact-tree.js';
import { escaped, tag } from './tag.js';
import { chained, predictedBy, segmented } from './write-segments.js';

/** Nodes that a file of many trees may have: one takes about 300 bytes, and files that are handed in have a limit. */
const MOST_NODES = 60_000;

/**
 * Models combined: those that have a share, by their mean or their votes.
 *
 * @param modelOf writes one of them
 */
export function combined(
  fitted: Fitted,
  { joined, members, weights }: CombinedState,
  schema: string,
  modelOf: (member: ModelState) => string,
): string {
  const ofVotes = fitted.labels.length === 0 ? 'median' : 'majorityVote';
  const models = members.flatMap((member, i) => {
    const weight = at(weights, i);
    return weight === 0 ? [] : [{ model: modelOf(member), weight }];
  });
  const method = joined === 'average' ? 'weightedAverage' : ofVotes;
  return segmented(predictedBy(fitted), schema, method, models);
}

/** A forest: the mean of its trees. @throws SieveError `model-file` where it is too large */
export function forest(fitted: Fitted, { trees, classes }: ForestState, schema: string): string {
  refuseLarge(trees);
  const outputs = Math.max(1, classes);
  return segmented(
    predictedBy(fitted),
    schema,
    'average',
    trees.map((tree) => ({ model: treeModel(fitted, tree, outputs, schema) })),
  );
}

/**
 * Boosting: sums of its trees, and for classes what makes probabilities of them.
 *
 * @throws SieveError `model-file` where it is too large
 */
export function boosted(
  fitted: Fitted,
  { trees, starts, scores, positive }: BoostingState,
  schema: string,
): string {
  refuseLarge(trees);
  const { labels } = fitted;
  const sum = (place: number, output: string) =>
    segmented(
      'regression',
      schema,
      'sum',
      [
        { model: constant(schema, at(starts, place)) },
        ...trees
          .filter((_, t) => t % starts.length === place)
          .map((tree) => ({ model: treeModel(fitted, tree, 1, schema) })),
      ],
      output,
    );
  if (scores === 'numbers') return sum(0, '');
  return chained(
    fitted,
    schema,
    starts.map((_, place) => (output) => sum(place, output)),
    // Of two classes the scores are log-odds of the positive one, beside which the other has 0.
    labels.map((_, label) => {
      const model = scores === 'classes' ? label : label === positive ? 0 : null;
      return { intercept: 0, terms: model === null ? [] : [{ model, coefficient: 1 }] };
    }),
  );
}

const constant = (schema: string, intercept: number): string =>
  tag('RegressionModel', { functionName: 'regression' }, [schema, tag('RegressionTable', { intercept })]);

function refuseLarge(trees: readonly CompactTree[]): void {
  const nodes = trees.reduce((sum, { columns }) => sum + columns.length, 0);
  if (nodes > MOST_NODES)
    throw new SieveError(
      'model-file',
      `The trees have ${count(nodes)} nodes, more than the ${count(MOST_NODES)} that a PMML file takes: fit fewer or smaller ones.`,
    );
}

/** A tree whose rows with a missing value go to the child that comes last, which takes all that is left. */
function treeModel(fitted: Fitted, tree: CompactTree, outputs: number, schema: string): string {
  const { recipe, labels } = fitted;
  const isOfClasses = outputs > 1;
  const valuesOf = (place: number) =>
    Array.from({ length: outputs }, (_, k) => tree.values[place * outputs + k] ?? 0);
  const write = (place: number, predicate: string): string => {
    const column = tree.columns[place] ?? -1;
    const values = valuesOf(place);
    const isLeaf = column < 0;
    const score = isOfClasses ? labels[values.indexOf(Math.max(...values))] : at(values, 0);
    return tag('Node', { id: place, score: isLeaf ? score : undefined }, [
      predicate,
      ...(isLeaf && isOfClasses
        ? labels.map((value, label) => tag('ScoreDistribution', { value, recordCount: at(values, label) }))
        : []),
      ...(isLeaf ? [] : children(place, column)),
    ]);
  };
  const children = (place: number, column: number): string[] => {
    const low = tree.lows[place] ?? 0;
    const threshold = tree.thresholds[place] ?? 0;
    const missingHigh = tree.missingHigh[place] === 1;
    const [first, last] = missingHigh ? [low, low + 1] : [low + 1, low];
    const feature = at(recipe.features, column);
    const predicate =
      feature.kind === 'category'
        ? isIn(
            feature.name,
            feature.levels.filter((_, level) => hasLevel(threshold, level) === missingHigh),
          )
        : tag('SimplePredicate', {
            field: feature.name,
            operator: missingHigh ? 'lessOrEqual' : 'greaterThan',
            value: threshold,
          });
    return [write(first, predicate), write(last, tag('True', {}))];
  };
  return tag(
    'TreeModel',
    {
      functionName: isOfClasses ? 'classification' : 'regression',
      missingValueStrategy: 'none',
      splitCharacteristic: 'binarySplit',
    },
    [schema, write(0, tag('True', {}))],
  );
}

/** A value among levels. */
export function isIn(field: string, levels: readonly string[]): string {
  const text = levels.map((level) => `"${level.replace(/["\\]/g, '\\$&')}"`).join(' ');
  return tag('SimpleSetPredicate', { field, booleanOperator: 'isIn' }, [
    tag('Array', { type: 'string', n: levels.length }, [escaped(text)]),
  ]);
}
