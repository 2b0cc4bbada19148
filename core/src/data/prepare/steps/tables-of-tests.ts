import { iris } from '../../../../test/files.js';
import { cellText, columnNamed, isCoded, type Column, type Table } from '../../table/table.js';
import { prepare } from '../prepare.js';
import type { PlanValue } from '../../sentence/parameter.js';
import { newPlan } from '../../sentence/sentence.js';
import { STEP_KINDS } from '../registry.js';

/** Iris with the blanks of the reference, and a column of times. */
export function blanked(): Table {
  const { rowCount, columns } = iris();
  const [length, width, petal, petalWidth, species] = columns;
  if (!length || !width || !petal || !petalWidth || !species) throw new Error('iris has five columns');
  const blank = (column: Column, isBlank: (row: number) => boolean): Column =>
    isCoded(column)
      ? { ...column, codes: column.codes.map((code, row) => (isBlank(row) ? -1 : code)) }
      : { ...column, values: column.values.map((value, row) => (isBlank(row) ? NaN : value)) };
  const start = Date.UTC(2024, 1, 25, 5, 30);
  return {
    rowCount,
    columns: [
      length,
      blank(width, (row) => row % 7 === 3),
      blank(petal, (row) => row % 11 === 5),
      petalWidth,
      blank(species, (row) => row % 13 === 8),
      {
        kind: 'time',
        name: 'day',
        values: Float64Array.from({ length: rowCount }, (_, row) => start + row * 31 * HOUR),
        format: { separator: 'T', seconds: true, zulu: false },
      },
    ],
  };
}

/** What a step makes of a table; the values of its parameters that are not given are those it begins with. */
export function done(table: Table, kind: string, values: Record<string, PlanValue>): Table {
  const found = STEP_KINDS.find(({ key }) => key === kind);
  if (!found) throw new Error(`no step ${kind}`);
  const step = newPlan(found, table.columns);
  const prepared = prepare(table, [{ kind, values: { ...step.values, ...values } }]);
  const problem = prepared.effects[0]?.problem;
  if (problem) throw new Error(problem.message);
  return prepared.table;
}

export const cells = (table: Table, name: string): (number | string | null)[] => {
  const column = columnNamed(table, name);
  return Array.from({ length: table.rowCount }, (_, row) => {
    const text = cellText(column, row);
    return text === null || column.kind !== 'number' ? text : Number(text);
  });
};

export const [LENGTH, WIDTH, PETAL, , SPECIES] = iris().columns.map(({ name }) => name) as [
  string,
  string,
  string,
  string,
  string,
];

const HOUR = 3_600_000;
