import type { Fitted } from '../../../models/fitted.js';
import type { NeighboursState } from '../../../models/nearest/neighbours-form.js';
import { at } from '../../../foundation/numbers.js';
import { escaped, tag } from './tag.js';

/** A column that rows are compared by: a number, or a level as 0 and 1. */
interface Compared {
  readonly field: string;
  /** What makes the field of a feature, where it is none itself. */
  readonly derived: string | null;
}

/** Added to a distance before it divides, so that a row that is met exactly counts nearly alone. */
const NEAREST = 1e-14;

/**
 * Nearest neighbours with their training rows. Differences are divided by the standard deviations of the training rows, here
 * as weights of their squares.
 *
 * @param schema the model's schema, which fills missing cells
 */
export function nearestNeighbours(fitted: Fitted, state: NeighboursState, schema: string): string {
  const { labels, recipe, target } = fitted;
  const compared = recipe.features.flatMap((feature): Compared[] => {
    if (feature.kind === 'number') return [{ field: feature.name, derived: null }];
    if (feature.kind === 'words') return [];
    return feature.levels.slice(1).map((level) => {
      const field = `${feature.name} = ${level}`;
      const made = tag('NormDiscrete', { field: feature.name, value: level });
      return {
        field,
        derived: tag('DerivedField', { name: field, optype: 'continuous', dataType: 'double' }, [made]),
      };
    });
  });
  const derived = compared.flatMap((one) => (one.derived === null ? [] : [one.derived]));
  const isClassification = labels.length > 0;
  const rows = Array.from({ length: state.answers.length }, (_, row) => {
    const cells = compared.map((_one, c) => {
      const value = (at(state.rows, c)[row] ?? 0) * at(state.deviations, c) + at(state.means, c);
      return `<c${c}>${value}</c${c}>`;
    });
    const answer = at(state.answers, row);
    const written = isClassification ? escaped(at(labels, answer)) : String(answer);
    return `<row>${cells.join('')}<y>${written}</y></row>`;
  });
  return tag(
    'NearestNeighborModel',
    {
      functionName: isClassification ? 'classification' : 'regression',
      numberOfNeighbors: state.neighbours,
      categoricalScoringMethod: state.byDistance ? 'weightedMajorityVote' : 'majorityVote',
      continuousScoringMethod: state.byDistance ? 'weightedAverage' : 'average',
      threshold: NEAREST,
    },
    [
      schema,
      ...(derived.length > 0 ? [tag('LocalTransformations', {}, derived)] : []),
      tag('TrainingInstances', { isTransformed: 'true', recordCount: rows.length }, [
        tag('InstanceFields', {}, [
          ...compared.map(({ field }, c) => tag('InstanceField', { field, column: `c${c}` })),
          tag('InstanceField', { field: target, column: 'y' }),
        ]),
        tag('InlineTable', {}, rows),
      ]),
      tag('ComparisonMeasure', { kind: 'distance', compareFunction: 'absDiff' }, [tag('euclidean', {})]),
      tag(
        'KNNInputs',
        {},
        compared.map(({ field }, c) =>
          tag('KNNInput', { field, fieldWeight: at(state.deviations, c) ** -2, compareFunction: 'absDiff' }),
        ),
      ),
    ],
  );
}
