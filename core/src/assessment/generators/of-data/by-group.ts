import { SieveError } from '../../../foundation/errors.js';
import { summarise } from '../../../data/profile/number-summary.js';
import { tallyOf } from '../../../foundation/statistics/tally.js';
import { cellText, columnNamed, isCoded, type Table } from '../../../data/table/table.js';
import { askedOf, figures, generator, type Asked } from '../generator.js';
import { largestOf } from '../extreme-name.js';
import { valueCounts } from './column-counts.js';
import { chosenRows, givenOf, ROWS } from './rows.js';

function numbersOf(table: Table, of: string, by: string, group: string): Float64Array {
  const [column, groups] = [columnNamed(table, of), columnNamed(table, by)];
  const values = isCoded(column) ? new Float64Array() : column.values;
  return values.filter((value, row) => !Number.isNaN(value) && cellText(groups, row) === group);
}

/** The group whose mean is the largest or the smallest, to be chosen. */
const extreme = (means: readonly (readonly [string, number])[], which: 'largest' | 'smallest'): Asked =>
  largestOf(
    { key: `${which}_mean`, name: `group of the ${which} mean` },
    means.map(([name, mean]) => [name, which === 'largest' ? mean : -mean]),
    'groups',
  );

export const byGroup = generator({
  key: 'by-group',
  title: 'a column by groups',
  about:
    'Figures of a column of numbers in one group of rows, and which group has the largest or smallest mean. Standard deviation with n − 1. Rows without a number or without a group take no part.',
  text: 'Look at **{column}** by **{by}** in {rows}. Figures are of the group “{group}”.',
  from: 'data',
  of: 'data',
  parameters: {
    rows: ROWS,
    column: { type: 'column', label: 'column', of: ['number'] },
    by: { type: 'column', label: 'groups', of: ['category', 'boolean', 'text'] },
    group: { type: 'text', label: 'group', start: '' },
    asked: figures(
      [
        'rows',
        'mean',
        'median',
        'standard deviation',
        'group of the largest mean',
        'group of the smallest mean',
      ],
      ['mean', 'group of the largest mean'],
    ),
  },
  sentence: () => 'Take {column} by {by} in {rows}, and ask for {asked} of the group {group}.',
  compute({ rows, column, by, group: given, asked }, material) {
    const table = chosenRows(material, rows);
    const group = given.trim();
    const own = numbersOf(table, column, by, group);
    if (own.length === 0)
      throw new SieveError('no-figure', `No row whose ${by} is “${group}” has a number in ${column}.`, {
        field: 'group',
      });
    const { mean, median, sd } = summarise(tallyOf(own));
    const means = valueCounts(columnNamed(table, by), table.rowCount).flatMap(([name]) => {
      const values = numbersOf(table, column, by, name);
      return values.length > 0 ? [[name, summarise(tallyOf(values)).mean] as const] : [];
    });
    return {
      given: { ...givenOf(table, rows), column, by, group },
      table: null,
      asked: [
        ...askedOf(
          {
            rows: own.length,
            mean,
            median,
            'standard deviation': sd ?? { value: null, reason: 'one value alone' },
          },
          asked,
        ),
        ...(asked.includes('group of the largest mean') ? [extreme(means, 'largest')] : []),
        ...(asked.includes('group of the smallest mean') ? [extreme(means, 'smallest')] : []),
      ],
    };
  },
});
