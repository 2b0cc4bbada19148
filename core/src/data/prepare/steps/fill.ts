import { SieveError } from '../../../foundation/errors.js';
import { summarise } from '../../profile/number-summary.js';
import { tallyOf } from '../../../foundation/statistics/tally.js';
import { numberOf, timeOf } from '../../table/cell.js';
import { countCodes, labelsOf, type Labelled } from '../../table/labels.js';
import { codedColumn } from '../../table/recode.js';
import { columnNamed, isCoded, isMissing, type Column, type Table } from '../../table/table.js';
import { modeOf, modeOfCodes } from '../figures.js';
import { checkNew, chosen } from '../rows.js';
import { stepKind, withColumns } from '../step.js';

type How = 'mean' | 'median' | 'most frequent' | 'constant';

export const fill = stepKind({
  key: 'fill',
  title: 'Fill missing cells',
  about:
    'Puts a value where there is none: the mean, the median or the most frequent value of the column (the smallest of several), or a given one; of the rows of one group, where a column of groups is chosen, and of all rows for a group without any. A column that says which cells were filled may be added.',
  parameters: {
    columns: { type: 'columns', label: 'the columns to fill' },
    how: {
      type: 'choice',
      label: 'with what',
      choices: [
        { value: 'median', text: 'the median' },
        { value: 'mean', text: 'the mean' },
        { value: 'most frequent', text: 'the most frequent value' },
        { value: 'constant', text: 'the value' },
      ],
    },
    value: { type: 'text', label: 'the value to fill with', none: 'nothing', start: '' },
    group: { type: 'column', label: 'the column of groups', none: 'all rows' },
    indicator: {
      type: 'choice',
      label: 'whether a column says which were missing',
      choices: [
        { value: 'no', text: 'nothing more' },
        { value: 'yes', text: 'a column for each that says where' },
      ],
    },
  },
  sentence: ({ how }) =>
    how === 'constant'
      ? 'Fill missing {columns} with {how} {value}, and add {indicator}.'
      : 'Fill missing {columns} with {how} of {group}, and add {indicator}.',
  learns: ({ how }) => how !== 'constant',
  apply: (table, { columns, how, value, group, indicator }) => {
    const groups = group === '' || how === 'constant' ? null : labelsOf(columnNamed(table, group));
    const old = chosen(table, columns);
    const filled = old.map((column) => fillColumn(column, how, value, groups));
    const marks = indicator === 'yes' ? old.map((column) => markOf(table, column)) : [];
    return { table: withColumns(table, [...filled, ...marks]) };
  },
});

function markOf(table: Table, column: Column): Column {
  const name = `${column.name}_missing`;
  checkNew(table, name, 'indicator');
  const values = new Float64Array(table.rowCount);
  for (let row = 0; row < table.rowCount; row++) values[row] = isMissing(column, row) ? 1 : 0;
  return { kind: 'number', name, values };
}

function fillColumn(column: Column, how: How, value: string, groups: Labelled | null): Column {
  if (isCoded(column)) {
    if (how === 'mean' || how === 'median')
      throw new SieveError(
        'step',
        `${column.name} holds no numbers: it has no ${how}. Fill it with the most frequent value.`,
        { field: 'how' },
      );
    const labels = [...column.levels, value];
    const codes = column.codes.slice();
    eachGroup(codes.length, groups, (rows) => {
      const own =
        how === 'constant'
          ? column.levels.length
          : modeOfCodes(countCodes(rows ? pick(column.codes, rows) : column.codes, column.levels.length));
      return (row) => {
        if (codes[row] === -1 && own >= 0) codes[row] = own;
      };
    });
    return codedColumn(column.name, labels, codes, column.kind);
  }
  const constant = how === 'constant' ? constantOf(column, value) : NaN;
  const values = column.values.slice();
  eachGroup(values.length, groups, (rows) => {
    const own =
      how === 'constant' ? constant : figureOf(rows ? pick(column.values, rows) : column.values, how);
    return (row) => {
      if (Number.isNaN(values[row]) && !Number.isNaN(own)) values[row] = own;
    };
  });
  return { ...column, values };
}

/** Calls what `learn` gives for the rows of each group, and then for all rows with what it learns of all. */
function eachGroup(
  rowCount: number,
  groups: Labelled | null,
  learn: (rows: number[] | null) => (row: number) => void,
): void {
  if (groups) {
    const rows = groups.labels.map(() => [] as number[]);
    groups.codes.forEach((code, row) => rows[code]?.push(row));
    for (const own of rows) own.forEach(learn(own));
  }
  const set = learn(null);
  for (let row = 0; row < rowCount; row++) set(row);
}

function pick<A extends Float64Array | Int32Array>(values: A, rows: readonly number[]): A {
  const out = values.slice(0, rows.length) as A;
  rows.forEach((row, i) => {
    out[i] = values[row] ?? 0;
  });
  return out;
}

function figureOf(values: Float64Array, how: Exclude<How, 'constant'>): number {
  const tally = tallyOf(values);
  if (tally.total === 0) return NaN;
  if (how === 'most frequent') return modeOf(tally);
  return how === 'mean' ? summarise(tally).mean : summarise(tally).median;
}

function constantOf(column: Column, text: string): number {
  const value = column.kind === 'time' ? (timeOf(text)?.value ?? NaN) : numberOf(text);
  if (Number.isNaN(value))
    throw new SieveError(
      'step',
      `${column.name} holds ${column.kind === 'time' ? 'dates (2026-03-01)' : 'numbers'}, and “${text}” is none.`,
      { field: 'value' },
    );
  return value;
}
