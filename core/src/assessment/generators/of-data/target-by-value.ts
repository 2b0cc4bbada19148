import { SieveError } from '../../../foundation/errors.js';
import type { Figure } from '../../../metrics/metric.js';
import type { Roles } from '../../../data/table/roles.js';
import { cellText, columnNamed, isCoded, type Table } from '../../../data/table/table.js';
import { askedOf, figures, generator } from '../generator.js';
import { chosenRows, givenOf, ROWS, shareOf } from './rows.js';

/** Of the target of some rows the mean, or the share of its positive class, of those that have a target. */
export function targetFigure(
  table: Table,
  { target, task, positive }: Roles,
  takesPart: (row: number) => boolean,
): Figure {
  const column = columnNamed(table, target);
  let [sum, rows] = [0, 0];
  for (let row = 0; row < table.rowCount; row++) {
    const text = takesPart(row) ? cellText(column, row) : null;
    if (text === null) continue;
    rows++;
    if (task === 'binary') sum += Number(text === positive);
    else sum += isCoded(column) ? NaN : (column.values[row] ?? NaN);
  }
  return rows > 0 ? { value: sum / rows } : { value: null, reason: 'no such row has a target' };
}

/** @throws SieveError `no-figure` for a target of more than two classes */
export function refuseManyClasses({ task }: Roles): void {
  if (task === 'multiclass')
    throw new SieveError('no-figure', 'A target of more than two classes has neither a rate nor a mean.', {
      field: 'asked',
    });
}

/** What the figure of a target is called. */
const targetWords = ({ target, task, positive }: Roles): string =>
  task === 'binary' ? `share of “${positive ?? ''}” in **${target}**` : `mean of **${target}**`;

export const targetByValue = generator({
  key: 'target-by-value',
  title: 'the target by a value',
  about:
    'How many rows have a value, and what their target is beside that of all other rows: the mean, or the share of the positive class. Rows without a value in the column are among the others.',
  text: 'Look at the rows of {rows} whose **{column}** is “{value}”. “Target” stands for the {figure}.',
  from: 'data',
  of: 'data',
  parameters: {
    rows: ROWS,
    column: { type: 'column', label: 'column' },
    value: { type: 'text', label: 'value', start: '' },
    asked: figures(
      [
        'rows of the value',
        'share of the rows',
        'target of the value',
        'target of all others',
        'difference of the two',
      ],
      ['rows of the value', 'target of the value'],
    ),
  },
  sentence: () => 'Take the rows of {rows} whose {column} is {value}, and ask for {asked}.',
  check: (_, __, roles) => {
    refuseManyClasses(roles);
  },
  compute({ rows, column: name, value, asked }, material) {
    refuseManyClasses(material.roles);
    const table = chosenRows(material, rows);
    const column = columnNamed(table, name);
    const has = (row: number) => cellText(column, row) === value.trim();
    let own = 0;
    for (let row = 0; row < table.rowCount; row++) if (has(row)) own++;
    if (own === 0)
      throw new SieveError(
        'no-figure',
        `No row of ${givenOf(table, rows)['rows'] ?? ''} has “${value}” in ${name}.`,
        {
          field: 'value',
        },
      );
    const there = targetFigure(table, material.roles, has);
    const elsewhere = targetFigure(table, material.roles, (row) => !has(row));
    return {
      given: {
        ...givenOf(table, rows),
        column: name,
        value: value.trim(),
        figure: targetWords(material.roles),
      },
      table: null,
      asked: askedOf(
        {
          'rows of the value': own,
          'share of the rows': shareOf(own, table.rowCount),
          'target of the value': there,
          'target of all others': elsewhere,
          'difference of the two':
            there.value === null
              ? there
              : elsewhere.value === null
                ? elsewhere
                : { value: there.value - elsewhere.value },
        },
        asked,
      ),
    };
  },
});
