import type { ModelRules } from '../questions/model/question.js';
import { columnsByName } from './columns.js';
import type { ModelInput } from './model-file.js';

/** An order in which programs put columns. */
export interface ColumnOrder {
  /** After "its columns": "by name", "numbers first". */
  readonly name: string;
  readonly columns: readonly string[];
}

/**
 * Other orders of the columns of a model whose inputs have no names of columns, so that the place of each decides: that of
 * the pack, by name, numbers first or last, and backwards. None where an input is named as a column: then the name decides.
 *
 * @param chosen the column for each input
 */
export function otherOrders(
  inputs: readonly ModelInput[],
  chosen: readonly (string | null)[],
  { columns }: Pick<ModelRules, 'columns'>,
): ColumnOrder[] {
  const names = columns.map(({ name }) => name);
  const own = chosen.filter((name) => name !== null);
  if (own.length < Math.max(2, inputs.length) || new Set(own).size < own.length) return [];
  if (columnsByName(inputs, names).some((column) => column !== null)) return [];
  const inPack = columns.filter(({ name }) => own.includes(name));
  const numbers = inPack.filter(({ kind }) => kind === 'number');
  const others = inPack.filter(({ kind }) => kind !== 'number');
  const plain = inPack.map(({ name }) => name);
  const seen = new Set([own.join('\n')]);
  return [
    { name: 'as in the pack', columns: plain },
    { name: 'by name', columns: [...plain].sort() },
    { name: 'by name, whatever their capitals', columns: sortedByLetters(plain) },
    { name: 'numbers first', columns: [...numbers, ...others].map(({ name }) => name) },
    { name: 'numbers last', columns: [...others, ...numbers].map(({ name }) => name) },
    { name: 'backwards', columns: [...plain].reverse() },
  ].filter(({ columns: order }) => {
    const key = order.join('\n');
    const isNew = !seen.has(key);
    seen.add(key);
    return isNew;
  });
}

const sortedByLetters = (names: readonly string[]): string[] =>
  [...names].sort((a, b) => {
    const [low, high] = [a.toLowerCase(), b.toLowerCase()];
    return low < high ? -1 : low > high ? 1 : 0;
  });
