import { readCsv } from '../../data/formats/csv/read.js';
import { writeRecords } from '../../data/formats/csv/write.js';
import type { ModelRules } from '../questions/model/question.js';
import { isCoded, type Column, type Table } from '../../data/table/table.js';

/** The example rows of a question as a table whose columns are of the kinds that the pack's are. */
export function exampleTable({ columns, examples }: Pick<ModelRules, 'columns' | 'examples'>): Table {
  const header = columns.map(({ name }) => name);
  const text = writeRecords(header, examples);
  const { table } = readCsv(new TextEncoder().encode(text), { file: 'examples' });
  return {
    rowCount: examples.length,
    columns: columns.map(({ name, kind }, i): Column => {
      const read = table.columns.find((column) => column.name === name);
      if (read && (read.kind === kind || (isCoded(read) && kind !== 'number' && kind !== 'time')))
        return read;
      const cells = examples.map((row) => row[i] ?? null);
      return kind === 'number' || kind === 'time'
        ? {
            kind: 'number',
            name,
            values: Float64Array.from(cells, (cell) => (cell === null ? NaN : Number(cell))),
          }
        : coded(name, cells, kind);
    }),
  };
}

function coded(
  name: string,
  cells: readonly (string | null)[],
  kind: 'category' | 'boolean' | 'text',
): Column {
  const levels = [...new Set(cells.filter((cell) => cell !== null))].sort((a, b) => (a < b ? -1 : 1));
  return {
    kind,
    name,
    levels,
    codes: Int32Array.from(cells, (cell) => (cell === null ? -1 : levels.indexOf(cell))),
  };
}
