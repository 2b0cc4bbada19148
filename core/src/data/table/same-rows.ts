import { isCoded, type Column } from './table.js';

/**
 * For each row the first row with the same cells in all of the columns, itself where there is none before it;
 * missing cells are alike, and so are 0 and −0. Rows are met by a 64-bit hash and then compared cell by cell.
 *
 * @param takesPart whether a row is looked at; −1 is given for one that is not
 */
export function firstAlike(
  columns: readonly Column[],
  rowCount: number,
  takesPart: (row: number) => boolean = () => true,
): Int32Array {
  if (columns.some(ascends))
    return Int32Array.from({ length: rowCount }, (_, row) => (takesPart(row) ? row : -1));
  const high = new Uint32Array(rowCount);
  const low = new Uint32Array(rowCount);
  for (const column of columns) mixIn(column, high, low);
  const first = new Int32Array(rowCount).fill(-1);
  // Open addressing over twice as many slots as rows; a slot holds a row and 1, so that 0 is an empty one.
  const slots = new Int32Array(2 ** Math.ceil(Math.log2(2 * rowCount + 2)));
  const mask = slots.length - 1;
  for (let row = 0; row < rowCount; row++) {
    if (!takesPart(row)) continue;
    let slot = (low[row] ?? 0) & mask;
    let other = (slots[slot] ?? 0) - 1;
    while (
      other >= 0 &&
      !(high[other] === high[row] && low[other] === low[row] && areAlike(columns, other, row))
    ) {
      slot = (slot + 1) & mask;
      other = (slots[slot] ?? 0) - 1;
    }
    if (other < 0) slots[slot] = row + 1;
    first[row] = other < 0 ? row : other;
  }
  return first;
}

/** Whether each cell is larger than the one before it, as in a column that counts rows: no two rows are alike then. */
function ascends(column: Column): boolean {
  const cells = isCoded(column) ? column.codes : column.values;
  for (let row = 1; row < cells.length; row++) if (!((cells[row] ?? 0) > (cells[row - 1] ?? 0))) return false;
  return true;
}

/** Whether two rows have the same cells in all of the columns; missing cells are alike. */
export function areAlike(columns: readonly Column[], a: number, b: number): boolean {
  return columns.every((column) => {
    if (isCoded(column)) return column.codes[a] === column.codes[b];
    const [x, y] = [column.values[a] ?? 0, column.values[b] ?? 0];
    return x === y || (Number.isNaN(x) && Number.isNaN(y));
  });
}

/** Mixes the cells of a column into the hashes of the rows, by the steps of MurmurHash3 (public domain). */
function mixIn(column: Column, high: Uint32Array, low: Uint32Array): void {
  if (isCoded(column)) {
    for (let row = 0; row < high.length; row++) mixCell(column.codes[row] ?? 0, 0, row, high, low);
    return;
  }
  const { values } = column;
  const bits = new Int32Array(values.buffer, values.byteOffset, 2 * values.length);
  for (let row = 0; row < high.length; row++) {
    const value = values[row] ?? 0;
    // One NaN and one nought stand for all of them.
    if (Number.isNaN(value)) mixCell(-1, -1, row, high, low);
    else if (value === 0) mixCell(0, 0, row, high, low);
    else mixCell(bits[2 * row] ?? 0, bits[2 * row + 1] ?? 0, row, high, low);
  }
}

function mixCell(first: number, second: number, row: number, high: Uint32Array, low: Uint32Array): void {
  const a = step(low[row] ?? 0, first);
  const b = step((high[row] ?? 0) ^ a, second);
  low[row] = a + b;
  high[row] = b + Math.imul(a, 5);
}

function step(hash: number, value: number): number {
  let k = Math.imul(value, 0xcc9e2d51);
  k = (k << 15) | (k >>> 17);
  let h = hash ^ Math.imul(k, 0x1b873593);
  h = (h << 13) | (h >>> 19);
  h = Math.imul(h, 5) + 0xe6546b64;
  h ^= h >>> 16;
  return Math.imul(h, 0x85ebca6b) ^ (h >>> 13);
}
