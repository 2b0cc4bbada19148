import { at, indices } from '../../../foundation/numbers.js';
import type { FeatureRecipe } from '../../../models/prepared/recipe.js';
import { ML, type GraphBuilder } from './graph-builder.js';
import { TensorProto_DataType } from './schema.js';

const { DOUBLE } = TensorProto_DataType;

/** A number for each level of a category, and one for a missing cell; a level that was not seen is the rest, or missing. */
export function encoded(
  graph: GraphBuilder,
  { name, levels, rest }: Extract<FeatureRecipe, { kind: 'category' }>,
  values: readonly number[],
  missing: number,
): string {
  const keys = rest ? levels.slice(0, -1) : levels;
  const floats = graph.add(
    'LabelEncoder',
    [name],
    {
      keys_strings: ['', ...keys],
      values_floats: { floats: [missing, ...keys.map((_, level) => at(values, level))] },
      default_float: { float: rest ? at(values, levels.length - 1) : missing },
    },
    ML,
  );
  return graph.add('Cast', [floats], { to: DOUBLE });
}

/** The label of the largest share. */
export function labelOf(graph: GraphBuilder, shares: string, labels: readonly string[]): string {
  const place = graph.add('ArgMax', [shares], { axis: 1, keepdims: 0 });
  const keys = Array.from(indices(labels.length));
  return graph.add('LabelEncoder', [place], { keys_int64s: keys, values_strings: labels }, ML);
}

/**
 * Shares of classes from scores.
 *
 * @param scores the name of n rows: of one score for the class at a place, beside which the other of two has 0, or of one for
 * each class
 * @param place null where each class has its own score
 */
export function softmaxOf(graph: GraphBuilder, scores: string, place: number | null): string {
  if (place === null) return graph.add('Softmax', [scores], { axis: 1 });
  const zero = graph.add('Mul', [scores, graph.tensor([0], [1])]);
  const pair = place === 0 ? [scores, zero] : [zero, scores];
  return graph.add('Softmax', [graph.add('Concat', pair, { axis: 1 })], { axis: 1 });
}
