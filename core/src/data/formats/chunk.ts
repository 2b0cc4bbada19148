import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { byCodeUnit } from '../table/order.js';
import { isCoded, takeRows, type Column } from '../table/table.js';

/** Rows of a column that one chunk holds at most. */
export const CHUNK_ROWS = 65_536;

/**
 * A column as binary chunks of up to `CHUNK_ROWS` rows, each complete in itself: the length of a JSON head as a
 * 32-bit little-endian integer, the head, then the cells (64-bit floats or 32-bit codes, little-endian).
 * Levels in a chunk are those that occur in it, so equal rows give equal bytes whatever the other rows hold.
 */
export function encodeColumn(column: Column): Uint8Array[] {
  const rowCount = isCoded(column) ? column.codes.length : column.values.length;
  const chunks: Uint8Array[] = [];
  for (let start = 0; start < rowCount; start += CHUNK_ROWS) {
    const length = Math.min(CHUNK_ROWS, rowCount - start);
    chunks.push(
      encodeChunk(
        takeRows(
          column,
          Int32Array.from({ length }, (_, i) => start + i),
        ),
      ),
    );
  }
  return chunks;
}

function encodeChunk(column: Column): Uint8Array {
  if (!isCoded(column)) {
    const head =
      column.kind === 'time' ? { kind: column.kind, format: column.format } : { kind: column.kind };
    const cells = new DataView(new ArrayBuffer(column.values.length * 8));
    column.values.forEach((value, i) => cells.setFloat64(i * 8, value, true));
    return join(head, cells);
  }
  const occurring = [...new Set(column.codes)].filter((code) => code >= 0).sort((a, b) => a - b);
  const codeOf = new Map(occurring.map((code, i) => [code, i]));
  const cells = new DataView(new ArrayBuffer(column.codes.length * 4));
  column.codes.forEach((code, i) => cells.setInt32(i * 4, codeOf.get(code) ?? -1, true));
  return join({ kind: column.kind, levels: occurring.map((code) => at(column.levels, code)) }, cells);
}

function join(head: object, cells: DataView): Uint8Array {
  const text = new TextEncoder().encode(JSON.stringify(head));
  const bytes = new Uint8Array(4 + text.length + cells.byteLength);
  new DataView(bytes.buffer).setUint32(0, text.length, true);
  bytes.set(text, 4);
  bytes.set(new Uint8Array(cells.buffer), 4 + text.length);
  return bytes;
}

type Head = Pick<Column, 'kind'> & { format?: object; levels?: readonly string[] };

/**
 * Puts a column together again from its chunks.
 *
 * @throws SieveError `chunk` where chunks are of different kinds
 */
export function decodeColumn(name: string, chunks: readonly Uint8Array[]): Column {
  const opened = chunks.map((bytes) => {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const length = view.getUint32(0, true);
    const head = JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + length))) as Head;
    return {
      head,
      cells: new DataView(bytes.buffer, bytes.byteOffset + 4 + length, bytes.byteLength - 4 - length),
    };
  });
  const kind = opened[0]?.head.kind ?? 'number';
  if (opened.some(({ head }) => head.kind !== kind))
    throw new SieveError('chunk', `The chunks of ${name} are of different kinds.`, { field: name });
  if (kind === 'number' || kind === 'time') {
    const values = new Float64Array(opened.reduce((n, { cells }) => n + cells.byteLength / 8, 0));
    let row = 0;
    for (const { cells } of opened)
      for (let i = 0; i < cells.byteLength; i += 8) values[row++] = cells.getFloat64(i, true);
    if (kind === 'number') return { kind, name, values };
    const format = { separator: null, seconds: false, zulu: false, ...opened[0]?.head.format };
    return { kind, name, values, format };
  }
  const levels = [...new Set(opened.flatMap(({ head }) => head.levels ?? []))].sort(byCodeUnit);
  const codeOf = new Map(levels.map((level, code) => [level, code]));
  const codes = new Int32Array(opened.reduce((n, { cells }) => n + cells.byteLength / 4, 0));
  let row = 0;
  for (const { head, cells } of opened) {
    const own = (head.levels ?? []).map((level) => codeOf.get(level) ?? -1);
    for (let i = 0; i < cells.byteLength; i += 4) {
      const code = cells.getInt32(i, true);
      codes[row++] = code < 0 ? -1 : at(own, code);
    }
  }
  return { kind, name, levels, codes };
}
