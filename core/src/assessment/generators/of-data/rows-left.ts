import { SieveError } from '../../../foundation/errors.js';
import { truthOf } from '../../../data/formula/formula.js';
import { summarise } from '../../../data/profile/number-summary.js';
import { firstAlike } from '../../../data/table/same-rows.js';
import { cellText, columnNamed, type Table } from '../../../data/table/table.js';
import { tallyOf } from '../../../foundation/statistics/tally.js';
import { askedOf, figures, generator } from '../generator.js';
import { valueCounts } from './column-counts.js';
import { chosenRows, givenOf, ROWS, shareOf } from './rows.js';

interface Values {
  readonly rule: 'condition' | 'rare' | 'outliers' | 'repeats';
  readonly condition: string;
  readonly column: string;
  readonly fewest: number;
  readonly times: number;
}

/** How many rows a rule leaves, and the rule in words. */
function leftBy(table: Table, { rule, condition, column: name, fewest, times }: Values): [number, string] {
  switch (rule) {
    case 'condition':
      return [
        truthOf(table, condition, 'condition').reduce((sum: number, holds) => sum + Number(holds === 1), 0),
        `keep the rows for which \`${condition}\``,
      ];
    case 'rare': {
      const column = columnNamed(table, name);
      const rare = new Set(
        valueCounts(column, table.rowCount).flatMap(([text, rows]) => (rows < fewest ? [text] : [])),
      );
      let left = 0;
      for (let row = 0; row < table.rowCount; row++) if (!rare.has(cellText(column, row) ?? '')) left++;
      return [left, `drop the rows whose **${name}** has a value that fewer than ${fewest} rows have`];
    }
    case 'outliers': {
      const column = columnNamed(table, name);
      const values = column.kind === 'number' ? column.values : new Float64Array();
      const { q1, q3 } = summarise(tallyOf(values));
      const far = values.filter(
        (value) => value < q1 - times * (q3 - q1) || value > q3 + times * (q3 - q1),
      ).length;
      return [
        table.rowCount - far,
        `drop the rows whose **${name}** lies more than ${times} times the distance of the quartiles below the first or above the third`,
      ];
    }
    case 'repeats':
      return [
        firstAlike(table.columns, table.rowCount).filter((first, row) => first === row).length,
        'drop the rows that are the same in all columns as an earlier row',
      ];
  }
}

export const rowsLeft = generator({
  key: 'rows-left',
  title: 'rows that a step leaves',
  about:
    'How many rows a step leaves and drops: by a condition, rare classes, outliers by the distance of the quartiles (Tukey, Exploratory Data Analysis, 1977; quartiles of type 7), or repeated rows. A row whose condition cannot be judged is dropped; a missing cell is no rare class and no outlier.',
  text: 'Of {rows}, {step}.',
  from: 'data',
  of: 'data',
  parameters: {
    rows: ROWS,
    rule: {
      type: 'choice',
      label: 'step',
      choices: [
        { value: 'condition', text: 'keep rows by a condition' },
        { value: 'rare', text: 'drop rare classes' },
        { value: 'outliers', text: 'drop outliers' },
        { value: 'repeats', text: 'drop repeated rows' },
      ],
    },
    condition: { type: 'formula', label: 'condition', start: '' },
    column: { type: 'column', label: 'column' },
    fewest: { type: 'number', label: 'fewest rows of a class', min: 1, step: 1, start: 10 },
    times: { type: 'number', label: 'how many times the distance of the quartiles', min: 0, start: 1.5 },
    asked: figures(['rows left', 'rows dropped', 'share dropped'], ['rows left']),
  },
  sentence: ({ rule }) =>
    `Of {rows}, {rule}${
      {
        condition: ': {condition}',
        rare: ' of {column} with fewer than {fewest} rows',
        outliers: ' of {column} beyond {times} times the distance of the quartiles',
        repeats: '',
      }[rule]
    }; ask for {asked}.`,
  compute({ rows, asked, ...values }, material) {
    const table = chosenRows(material, rows);
    if (values.rule === 'outliers' && columnNamed(table, values.column).kind !== 'number')
      throw new SieveError('no-figure', `${values.column} holds no numbers.`, { field: 'column' });
    const [left, step] = leftBy(table, values);
    return {
      given: { ...givenOf(table, rows), step },
      table: null,
      asked: askedOf(
        {
          'rows left': left,
          'rows dropped': table.rowCount - left,
          'share dropped': shareOf(table.rowCount - left, table.rowCount),
        },
        asked,
      ),
    };
  },
});
