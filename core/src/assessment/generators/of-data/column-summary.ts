import { SieveError } from '../../../foundation/errors.js';
import { summarise } from '../../../data/profile/number-summary.js';
import { tallyOf } from '../../../foundation/statistics/tally.js';
import { columnNamed, isCoded } from '../../../data/table/table.js';
import { askedOf, figures, generator } from '../generator.js';
import { chosenRows, givenOf, ROWS } from './rows.js';

export const columnSummary = generator({
  key: 'column-summary',
  title: 'a column of numbers',
  about:
    'Summary figures of a column in the files that students have, the same for all of them. Missing cells are left out; standard deviation with n − 1, quartiles by linear interpolation (type 7), skewness bias-corrected.',
  text: 'Look at the column **{column}** of {rows}.',
  from: 'data',
  of: 'data',
  parameters: {
    rows: ROWS,
    column: { type: 'column', label: 'column', of: ['number'] },
    asked: figures(
      [
        'mean',
        'median',
        'standard deviation',
        'lower quartile',
        'upper quartile',
        'interquartile range',
        'skewness',
        'smallest',
        'largest',
        'missing cells',
        'distinct values',
      ],
      ['mean', 'median'],
    ),
  },
  sentence: () => 'Take the column {column} of {rows}, and ask for its {asked}.',
  compute({ rows, column: name, asked }, material) {
    const table = chosenRows(material, rows);
    const column = columnNamed(table, name);
    const values = isCoded(column) ? new Float64Array() : column.values;
    const present = values.filter((value) => !Number.isNaN(value));
    if (present.length < 2)
      throw new SieveError('no-figure', `${name} has fewer than two numbers in these rows.`, {
        field: 'column',
      });
    const tally = tallyOf(values);
    const { mean, median, sd, q1, q3, min, max, skewness } = summarise(tally);
    return {
      given: { ...givenOf(table, rows), column: name },
      table: null,
      asked: askedOf(
        {
          mean,
          median,
          'standard deviation': sd ?? { value: null, reason: 'one value alone' },
          'lower quartile': q1,
          'upper quartile': q3,
          'interquartile range': q3 - q1,
          skewness: skewness ?? { value: null, reason: 'the values do not vary, or are fewer than three' },
          smallest: min,
          largest: max,
          'missing cells': values.length - present.length,
          'distinct values': tally.values.length,
        },
        asked,
        { workings: { list: present } },
      ),
    };
  },
});
