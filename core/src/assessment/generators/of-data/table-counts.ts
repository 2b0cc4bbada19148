import { firstAlike } from '../../../data/table/same-rows.js';
import { isMissing } from '../../../data/table/table.js';
import { askedOf, figures, generator } from '../generator.js';
import { chosenRows, givenOf, ROWS } from './rows.js';

export const tableCounts = generator({
  key: 'table-counts',
  title: 'rows and columns',
  about:
    'How many rows and columns there are, how many rows have a value in every one of some columns, and how many are the same in all of them as a row before.',
  text: 'Look at {columns} of {rows}.',
  from: 'data',
  of: 'data',
  parameters: {
    rows: ROWS,
    columns: { type: 'columns', label: 'columns', none: 'all columns' },
    asked: figures(
      ['rows', 'columns', 'complete rows', 'rows with a missing cell', 'rows that repeat an earlier one'],
      ['rows', 'complete rows'],
    ),
  },
  sentence: () => 'Take {columns} of {rows}, and ask for {asked}.',
  compute({ rows, columns: names, asked }, material) {
    const table = chosenRows(material, rows);
    const columns = table.columns.filter(({ name }) => names.length === 0 || names.includes(name));
    let complete = 0;
    for (let row = 0; row < table.rowCount; row++)
      if (columns.every((column) => !isMissing(column, row))) complete++;
    const repeats = firstAlike(columns, table.rowCount).filter((first, row) => first < row).length;
    return {
      given: {
        ...givenOf(table, rows),
        columns: names.length === 0 ? 'all columns' : names.map((name) => `**${name}**`).join(', '),
      },
      table: null,
      asked: askedOf(
        {
          rows: table.rowCount,
          columns: columns.length,
          'complete rows': complete,
          'rows with a missing cell': table.rowCount - complete,
          'rows that repeat an earlier one': repeats,
        },
        asked,
      ),
    };
  },
});
