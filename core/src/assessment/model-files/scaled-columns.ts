import { selectRows, type Column, type NumberColumn, type Table } from '../../data/table/table.js';

/** Columns of numbers as a step of preparation leaves them. */
export interface Scaling {
  /** After "its numbers": "standardised". */
  readonly name: string;
  readonly table: Table;
}

/**
 * Some rows with their numbers standardised (mean 0, deviation 1, with divisor n), and scaled to 0 … 1, by all rows that
 * are given. A column that is constant is 0. None where no column has numbers.
 */
export function scaled(training: Table, rows: Int32Array): Scaling[] {
  const first = selectRows(
    training,
    rows,
    training.columns.map(({ name }) => name),
  );
  const by = (scale: (values: Float64Array) => readonly [centre: number, unit: number]): Table => ({
    ...first,
    columns: first.columns.map((column, i): Column => {
      const all = training.columns[i];
      if (column.kind !== 'number' || all?.kind !== 'number') return column;
      const [centre, unit] = scale(known(all));
      return { ...column, values: column.values.map((value) => (value - centre) / (unit || 1)) };
    }),
  });
  if (!training.columns.some(({ kind }) => kind === 'number')) return [];
  return [
    { name: 'standardised', table: by(standard) },
    { name: 'scaled to 0 … 1', table: by(span) },
  ];
}

const known = ({ values }: NumberColumn): Float64Array => values.filter((value) => !Number.isNaN(value));

function standard(values: Float64Array): [number, number] {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const squares = values.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  return [mean, Math.sqrt(squares / values.length)];
}

function span(values: Float64Array): [number, number] {
  const least = values.reduce((a, b) => Math.min(a, b), Infinity);
  return [least, values.reduce((a, b) => Math.max(a, b), -Infinity) - least];
}
