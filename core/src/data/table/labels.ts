import { sortLabels } from './order.js';
import { cellText, isCoded, type Column } from './table.js';

/** A column seen as classes: every distinct value a label; −1 where a cell is missing. */
export interface Labelled {
  readonly labels: readonly string[];
  /** One code for each row, pointing into `labels`, or −1. */
  readonly codes: Int32Array;
}

/** The labels that occur in a column, in label order, and each row's code. */
export function labelsOf(column: Column): Labelled {
  const rowCount = isCoded(column) ? column.codes.length : column.values.length;
  const keys: ArrayLike<number> = isCoded(column) ? column.codes : column.values;
  const textOf = new Map<number, string>();
  for (let row = 0; row < rowCount; row++) {
    const key = keys[row] ?? 0;
    if (textOf.has(key)) continue;
    const text = cellText(column, row);
    if (text !== null) textOf.set(key, text);
  }
  const labels = sortLabels(textOf.values());
  const codeOf = new Map(labels.map((label, code) => [label, code]));
  const codeOfKey = new Map<number, number>();
  for (const [key, text] of textOf) codeOfKey.set(key, codeOf.get(text) ?? -1);
  const codes = new Int32Array(rowCount);
  for (let row = 0; row < rowCount; row++) codes[row] = codeOfKey.get(keys[row] ?? 0) ?? -1;
  return { labels, codes };
}

/** Code of the group of each row; a row without one is a group of its own. */
export function groupCodes(column: Column): Int32Array {
  const { codes, labels } = labelsOf(column);
  return codes.map((code, row) => (code < 0 ? labels.length + row : code));
}

/** How many rows carry each code; missing cells are not counted. */
export function countCodes(codes: ArrayLike<number>, size: number): number[] {
  const counts = new Array<number>(size).fill(0);
  for (let i = 0; i < codes.length; i++) {
    const code = codes[i] ?? 0;
    if (code >= 0) counts[code] = (counts[code] ?? 0) + 1;
  }
  return counts;
}
