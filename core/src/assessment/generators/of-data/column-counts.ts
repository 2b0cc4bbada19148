import { cellText, columnNamed, type Column } from '../../../data/table/table.js';
import { askedOf, figures, generator } from '../generator.js';
import { largestOf } from '../extreme-name.js';
import { chosenRows, givenOf, ROWS, shareOf } from './rows.js';

/** Rows of each value that occurs, the commonest first, of equal ones in the order of their texts. */
export function valueCounts(column: Column, rowCount: number): [text: string, rows: number][] {
  const counts = new Map<string, number>();
  for (let row = 0; row < rowCount; row++) {
    const text = cellText(column, row);
    if (text !== null) counts.set(text, (counts.get(text) ?? 0) + 1);
  }
  return [...counts].sort(([a, m], [b, n]) => n - m || (a < b ? -1 : 1));
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
        ...(asked.includes('commonest value')
          ? [largestOf({ key: 'commonest_value', name: 'commonest value' }, counts, 'values')]
          : []),
      ],
    };
  },
});
