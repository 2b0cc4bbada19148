import { SieveError } from '../../foundation/errors.js';
import { at, counted } from '../../foundation/numbers.js';
import { codedColumn } from './recode.js';
import { labelsOf } from './labels.js';
import { cellTexts, columnNamed, isCoded, KIND_WORDS, type Column, type Table } from './table.js';

/** How a second table is put to a first: its rows below, or its columns beside by a key. */
export const COMBINATIONS = ['append', 'join'] as const;
export type Combination = (typeof COMBINATIONS)[number];

/**
 * The rows of a second table below those of a first. Columns meet by their names; one that only one of them has is
 * missing in the rows of the other, and stands last where only the second has it.
 *
 * @throws SieveError `columns-differ` where a column holds numbers or dates in one and texts in the other, or none meet
 */
export function appendRows(first: Table, second: Table): Table {
  const rowCount = first.rowCount + second.rowCount;
  const others = new Map(second.columns.map((column) => [column.name, column]));
  const own = new Set(first.columns.map(({ name }) => name));
  if (!second.columns.some(({ name }) => own.has(name)))
    throw new SieveError(
      'columns-differ',
      'The file has no column of this table, so its rows do not belong below it.',
    );
  const below = first.columns.map((column) =>
    joined(column, others.get(column.name) ?? null, second.rowCount),
  );
  const added = second.columns
    .filter(({ name }) => !own.has(name))
    .map((column) =>
      takenAt(
        column,
        Int32Array.from({ length: rowCount }, (_, row) => row - first.rowCount),
      ),
    );
  return { rowCount, columns: [...below, ...added] };
}

function joined(a: Column, b: Column | null, rowsOfB: number): Column {
  if (b === null) {
    const rows = isCoded(a) ? a.codes.length : a.values.length;
    return takenAt(
      a,
      Int32Array.from({ length: rows + rowsOfB }, (_, row) => (row < rows ? row : -1)),
    );
  }
  if (isCoded(a) !== isCoded(b) || (!isCoded(a) && a.kind !== b.kind))
    throw new SieveError(
      'columns-differ',
      `${a.name} holds ${KIND_WORDS[a.kind]} in the table and ${KIND_WORDS[b.kind]} in the file: convert one of them first.`,
      { field: a.name },
    );
  if (!isCoded(a) && !isCoded(b)) {
    const values = new Float64Array(a.values.length + b.values.length);
    values.set(a.values);
    values.set(b.values, a.values.length);
    return { ...a, values };
  }
  const [above, below] = [labelsOf(a), labelsOf(b)];
  const codes = new Int32Array(above.codes.length + below.codes.length);
  codes.set(above.codes);
  below.codes.forEach((code, row) => {
    codes[above.codes.length + row] = code < 0 ? -1 : above.labels.length + code;
  });
  const kind = isCoded(a) && isCoded(b) && a.kind === b.kind ? a.kind : 'category';
  return codedColumn(a.name, [...above.labels, ...below.labels], codes, kind);
}

/**
 * The columns of a second table beside those of a first, by the key that both have. Every row of the first stays, once;
 * a row whose key the second lacks has missing cells there. A column whose name is taken gets a number.
 *
 * @throws SieveError `no-such-column`, `key-repeated` with the value that is in two rows of the second table
 */
export function joinByKey(first: Table, second: Table, key: string): Table {
  const [ours, theirs] = [cellTexts(columnNamed(first, key)), cellTexts(columnNamed(second, key))];
  const rowOf = new Map<string, number>();
  theirs.forEach((text, row) => {
    if (text === '') return;
    const earlier = rowOf.get(text);
    if (earlier !== undefined)
      throw new SieveError(
        'key-repeated',
        `The file has ${key} “${text}” in rows ${earlier + 1} and ${row + 1}: it does not say which of them belongs to a row of the table.`,
        { field: key },
      );
    rowOf.set(text, row);
  });
  const rows = Int32Array.from(ours, (text) => rowOf.get(text) ?? -1);
  if (!rows.some((row) => row >= 0))
    throw new SieveError(
      'no-key-meets',
      `None of the ${counted(rowOf.size, 'value')} of ${key} in the file is in the table.`,
      { field: key },
    );
  const names = new Set(first.columns.map(({ name }) => name));
  const beside = second.columns
    .filter(({ name }) => name !== key)
    .map((column) => {
      let name = column.name;
      for (let n = 2; names.has(name); n++) name = `${column.name}_${n}`;
      names.add(name);
      return { ...takenAt(column, rows), name };
    });
  return { rowCount: first.rowCount, columns: [...first.columns, ...beside] };
}

/** A column's cells at some rows; a row before the first, or after the last, is a missing cell. */
function takenAt(column: Column, rows: Int32Array): Column {
  if (isCoded(column)) {
    const { length } = column.codes;
    const codes = rows.map((row) => (row < 0 || row >= length ? -1 : at(column.codes, row)));
    return codedColumn(column.name, column.levels, codes, column.kind);
  }
  const { length } = column.values;
  return {
    ...column,
    values: Float64Array.from(rows, (row) => (row < 0 || row >= length ? NaN : at(column.values, row))),
  };
}
