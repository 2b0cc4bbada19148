import { SieveError } from '../../../foundation/errors.js';
import { cellText, columnNamed, type Column } from '../../../data/table/table.js';
import { askedOf, figures, generator, type Asked } from '../generator.js';
import { chosenRows, givenOf, ROWS, shareOf } from './rows.js';

/** Values that are few enough to be chosen from. */
const MOST_CHOICES = 30;

/** Rows of each value that occurs, the commonest first, of equal ones in the order of their texts. */
export function valueCounts(column: Column, rowCount: number): [text: string, rows: number][] {
  const counts = new Map<string, number>();
  for (let row = 0; row < rowCount; row++) {
    const text = cellText(column, row);
    if (text !== null) counts.set(text, (counts.get(text) ?? 0) + 1);
  }
  return [...counts].sort(([a, m], [b, n]) => n - m || (a < b ? -1 : 1));
}

function commonest(name: string, counts: readonly [string, number][]): Asked {
  const fail = (message: string) => new SieveError('no-figure', `${name} ${message}`, { field: 'asked' });
  const [first, second] = counts;
  if (!first) throw fail('has no value in these rows.');
  if (second?.[1] === first[1]) throw fail('has two values that are equally common.');
  if (counts.length > MOST_CHOICES)
    throw fail(`has more than ${MOST_CHOICES} values: its commonest cannot be chosen from a list.`);
  return {
    key: 'commonest_value',
    name: 'commonest value',
    convention: null,
    choices: counts.map(([text]) => text).sort(),
    right: [first[0]],
    several: false,
  };
}

export const columnCounts = generator({
  key: 'column-counts',
  title: 'a column of any kind',
  about:
    'Missing cells, distinct values and the commonest value of a column. A missing cell is no value. A commonest value can be asked for where no other is as common, and where there are at most thirty values.',
  text: 'Look at the column **{column}** of {rows}.',
  from: 'data',
  of: 'data',
  parameters: {
    rows: ROWS,
    column: { type: 'column', label: 'column' },
    asked: figures(
      [
        'missing cells',
        'share of missing cells',
        'distinct values',
        'rows of the commonest value',
        'share of the commonest value',
        'commonest value',
      ],
      ['missing cells', 'distinct values'],
    ),
  },
  sentence: () => 'Take the column {column} of {rows}, and ask for its {asked}.',
  compute({ rows, column: name, asked }, material) {
    const table = chosenRows(material, rows);
    const counts = valueCounts(columnNamed(table, name), table.rowCount);
    const present = counts.reduce((sum, [, own]) => sum + own, 0);
    const most = counts[0]?.[1] ?? 0;
    return {
      given: { ...givenOf(table, rows), column: name },
      table: null,
      asked: [
        ...askedOf(
          {
            'missing cells': table.rowCount - present,
            'share of missing cells': shareOf(table.rowCount - present, table.rowCount),
            'distinct values': counts.length,
            'rows of the commonest value': most,
            'share of the commonest value': shareOf(most, present),
          },
          asked,
        ),
        ...(asked.includes('commonest value') ? [commonest(name, counts)] : []),
      ],
    };
  },
});
