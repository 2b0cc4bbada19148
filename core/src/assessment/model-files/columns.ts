import { SieveError } from '../../foundation/errors.js';
import { at, counted } from '../../foundation/numbers.js';
import type { ModelInput } from './model-file.js';

const plain = (name: string) => name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');

/** The column that each input is named as, without regard to blanks, signs and case where it must be; null for others. */
export function columnsByName(inputs: readonly ModelInput[], columns: readonly string[]): (string | null)[] {
  const byPlain = new Map<string, string | null>();
  for (const column of columns) byPlain.set(plain(column), byPlain.has(plain(column)) ? null : column);
  return inputs.map(({ name }) => (columns.includes(name) ? name : (byPlain.get(plain(name)) ?? null)));
}

/**
 * The column for each input: by its name, by its name without blanks, signs and case, and where no input has the name of a
 * column, by position. Null where none can be proposed.
 */
export function proposedColumns(
  inputs: readonly ModelInput[],
  columns: readonly string[],
): (string | null)[] {
  const found = columnsByName(inputs, columns);
  const isPositional = found.every((column) => column === null) && inputs.length === columns.length;
  return isPositional ? [...columns] : found;
}

/**
 * The column for each input by name.
 *
 * @throws SieveError `model-file` naming the inputs without one
 */
export function columnsFor(
  inputs: readonly ModelInput[],
  columns: readonly string[],
): (input: string) => string {
  const proposed = proposedColumns(inputs, columns);
  const without = inputs.filter((_, i) => proposed[i] === null);
  if (without.length > 0) {
    const names = without.slice(0, 3).map(({ name }) => `“${name}”`);
    throw new SieveError(
      'model-file',
      without.length === inputs.length
        ? `The model takes ${counted(inputs.length, 'column')} by position or other names (${names.join(', ')}); the data have ${counted(columns.length, 'column')}.`
        : `The data have no column for ${names.join(', ')}${without.length > 3 ? ` and ${without.length - 3} more` : ''}.`,
    );
  }
  const places = new Map(inputs.map(({ name }, i) => [name, at(proposed, i)]));
  return (input) => places.get(input) ?? input;
}
