import type { Fitted } from '../../../models/fitted.js';
import { apply, constant, derived } from './write-expressions.js';
import { tag } from './tag.js';

type Predicted = 'classification' | 'regression';

export const predictedBy = ({ labels }: Fitted): Predicted =>
  labels.length > 0 ? 'classification' : 'regression';

/** Models whose predictions become one. */
export function segmented(
  functionName: Predicted,
  schema: string,
  method: string,
  models: readonly { readonly model: string; readonly weight?: number }[],
  output = '',
): string {
  const segments = models.map(({ model, weight }, i) =>
    tag('Segment', { id: i + 1, weight }, [tag('True', {}), model]),
  );
  return tag('MiningModel', { functionName }, [
    schema,
    ...(output === '' ? [] : [output]),
    tag('Segmentation', { multipleModelMethod: method }, segments),
  ]);
}

/** The score of a class: an intercept, and the models whose numbers are added to it or taken from it. */
export interface ClassScore {
  readonly intercept: number;
  readonly terms: readonly { readonly model: number; readonly coefficient: 1 | -1 }[];
}

/**
 * Models of numbers one after the other, and a last one that makes probabilities of what they say: the softmax of one score
 * for each class.
 *
 * @param schema of the inputs
 * @param models each as it is written with an <Output> of its own
 * @param scores of each class
 * @param votes whether a model counts 1 where its number is above 0 and 0 elsewhere, in place of the number itself
 */
export function chained(
  fitted: Fitted,
  schema: string,
  models: readonly ((output: string) => string)[],
  scores: readonly ClassScore[],
  votes = false,
): string {
  const said = (place: number) => `score ${place + 1}`;
  const counted = (place: number) => (votes ? `vote ${place + 1}` : said(place));
  const first = models.map((write, place) => ({ model: write(outputNamed(said(place))) }));
  const tables = scores.map(({ intercept, terms }, label) =>
    tag(
      'RegressionTable',
      { intercept, targetCategory: fitted.labels[label] },
      terms.map(({ model, coefficient }) => tag('NumericPredictor', { name: counted(model), coefficient })),
    ),
  );
  const inputs = tag('MiningSchema', {}, [
    ...models.map((_, place) => tag('MiningField', { name: said(place) })),
    tag('MiningField', { name: fitted.target, usageType: 'target' }),
  ]);
  const transformed = votes
    ? [
        tag(
          'LocalTransformations',
          {},
          models.map((_, place) => vote(counted(place), said(place))),
        ),
      ]
    : [];
  const last = tag('RegressionModel', { functionName: 'classification', normalizationMethod: 'softmax' }, [
    inputs,
    ...transformed,
    ...tables,
  ]);
  return segmented('classification', schema, 'modelChain', [...first, { model: last }]);
}

const vote = (name: string, of: string): string =>
  derived(
    name,
    apply('if', apply('greaterThan', tag('FieldRef', { field: of }), constant(0)), constant(1), constant(0)),
  );

const outputNamed = (name: string): string =>
  tag('Output', {}, [
    tag('OutputField', { name, optype: 'continuous', dataType: 'double', feature: 'predictedValue' }),
  ]);
