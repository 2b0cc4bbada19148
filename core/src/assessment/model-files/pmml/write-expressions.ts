import { at } from '../../../foundation/numbers.js';
import type { Recipe } from '../../../models/prepared/recipe.js';
import { tag } from './tag.js';

export const constant = (value: number): string => tag('Constant', { dataType: 'double' }, [String(value)]);

export const apply = (name: string, ...of: readonly string[]): string => tag('Apply', { function: name }, of);

/** A number that is computed from fields; one that stands within its user has no name. */
export const derived = (name: string | undefined, body: string): string =>
  tag('DerivedField', { name, optype: 'continuous', dataType: 'double' }, [body]);

/** A column of a design: a number, or 0 and 1 for a level of a category after its first. */
export interface DesignColumn {
  readonly name: string;
  readonly body: string;
}

/** Every column of the design, standardised. A feature of words has none here. */
export function standardisedColumns(
  { features }: Recipe,
  { means, deviations }: { readonly means: readonly number[]; readonly deviations: readonly number[] },
): DesignColumn[] {
  const columns = features.flatMap((feature): DesignColumn[] => {
    const { name } = feature;
    if (feature.kind === 'number') return [{ name, body: tag('FieldRef', { field: name }) }];
    if (feature.kind === 'words') return [];
    return feature.levels
      .slice(1)
      .map((value) => ({ name: `${name} = ${value}`, body: tag('NormDiscrete', { field: name, value }) }));
  });
  return columns.map(({ name, body }, c) => ({
    name: `standardised ${name}`,
    body: apply('/', apply('-', body, constant(at(means, c))), constant(at(deviations, c))),
  }));
}
