import { counted } from '../../foundation/numbers.js';
import { numberOf } from '../../data/table/cell.js';
import { isCoded, type Table } from '../../data/table/table.js';
import type { Leak } from './leak.js';

const MOST_NAMED = 4;

/** What shows that a file was not read as it was meant: blanks around values, values in place of names of columns. */
export const watchAsRead = (table: Table): Leak[] => [...watchBlanks(table), ...watchHeader(table)];

/** Columns whose values have blanks before or after them. */
function watchBlanks(table: Table): Leak[] {
  const found = table.columns.filter(
    (column) => isCoded(column) && column.levels.some((level) => level !== level.trim()),
  );
  const [first] = found;
  if (!first || !isCoded(first)) return [];
  const example = first.levels.find((level) => level !== level.trim()) ?? '';
  const names = found.slice(0, MOST_NAMED).map(({ name }) => name);
  const left = found.length - names.length;
  return [
    {
      column: found.map(({ name }) => name).join(', '),
      kind: 'blanks',
      measure: found.length,
      message: `${counted(found.length, 'column has', 'columns have')} values with blanks around them, as “${example}”: ${names.join(', ')}${left > 0 ? ` and ${left} more` : ''}.`,
    },
  ];
}

/** Names of columns that are numbers where the column holds numbers: the first row of a file without a header. */
function watchHeader(table: Table): Leak[] {
  const numbers = table.columns.filter(({ kind }) => kind === 'number');
  // Names that columns were given because theirs stood twice end in a number of their own.
  const like = numbers.filter(({ name }) => !Number.isNaN(numberOf(name)));
  // Years as names of columns go up one by one; values of a row seldom do.
  const isCount = like.every(({ name }, i) => i === 0 || Number(name) === Number(like[i - 1]?.name) + 1);
  if (like.length < 2 || 2 * like.length < numbers.length || isCount) return [];
  return [
    {
      column: null,
      kind: 'header',
      measure: like.length,
      message: `The names of ${counted(like.length, 'column')} are numbers, as “${like[0]?.name ?? ''}”: the file may have no header, and its first row is lost. Add a line with the names of the columns and import it again.`,
    },
  ];
}
