import { columnNamed, isCoded } from '../../../data/table/table.js';
import { askedOf, figures, generator } from '../generator.js';
import { valueCounts } from './column-counts.js';
import { chosenRows, givenOf, ROWS } from './rows.js';

export const dummyColumns = generator({
  key: 'dummy-columns',
  title: 'dummy columns',
  about:
    'How many columns of 0 and 1 stand for the values of some columns: one for each value that occurs, or one less for each column, whose first value is then compared with. A missing cell is no value.',
  text: 'The columns {columns} of {rows} are turned into dummy columns; all other columns of numbers stay.',
  from: 'data',
  of: 'data',
  parameters: {
    rows: ROWS,
    columns: { type: 'columns', label: 'columns' },
    asked: figures(
      [
        'dummy columns, one value left out of each',
        'dummy columns, one for each value',
        'columns of the design, one value left out of each',
      ],
      ['dummy columns, one value left out of each'],
    ),
  },
  sentence: () => 'Turn {columns} of {rows} into dummy columns, and ask for {asked}.',
  compute({ rows, columns: names, asked }, material) {
    const table = chosenRows(material, rows);
    const counts = names.map((name) => valueCounts(columnNamed(table, name), table.rowCount).length);
    const every = counts.reduce((sum, values) => sum + values, 0);
    const oneLess = counts.reduce((sum, values) => sum + Math.max(0, values - 1), 0);
    const numbers = table.columns.filter(
      (column) =>
        !isCoded(column) &&
        !names.includes(column.name) &&
        ![material.roles.target, material.roles.identifier].includes(column.name),
    ).length;
    return {
      given: { ...givenOf(table, rows), columns: names.map((name) => `**${name}**`).join(', ') },
      table: null,
      asked: askedOf(
        {
          'dummy columns, one value left out of each': oneLess,
          'dummy columns, one for each value': every,
          'columns of the design, one value left out of each': oneLess + numbers,
        },
        asked,
      ),
    };
  },
});
