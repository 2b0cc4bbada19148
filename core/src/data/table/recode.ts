import { labelsOf } from './labels.js';
import { byCodeUnit } from './order.js';
import { isCoded, type CodedColumn, type Column } from './table.js';

/**
 * A column of texts from labels and, for each row, a code that points into them; −1 is a missing cell. Labels that
 * are the same become one level, and those that no row has none.
 */
export function codedColumn(
  name: string,
  labels: readonly string[],
  codes: Int32Array,
  kind: CodedColumn['kind'] = 'category',
): CodedColumn {
  const used = new Uint8Array(labels.length);
  for (let row = 0; row < codes.length; row++) {
    const code = codes[row] ?? -1;
    if (code >= 0) used[code] = 1;
  }
  const levels = [...new Set(labels.filter((_, code) => used[code] === 1))].sort(byCodeUnit);
  const rank = new Map(levels.map((level, code) => [level, code]));
  const codeOf = Int32Array.from(labels, (label) => rank.get(label) ?? -1);
  const out = new Int32Array(codes.length);
  for (let row = 0; row < codes.length; row++) {
    const code = codes[row] ?? -1;
    out[row] = code < 0 ? -1 : (codeOf[code] ?? -1);
  }
  return { kind, name, levels, codes: out };
}

/** A column whose cells are changed by their texts, each distinct one once; null makes a cell missing. */
export function recoded(column: Column, change: (text: string) => string | null): CodedColumn {
  const { labels, codes } = labelsOf(column);
  const changed = labels.map(change);
  const out = new Int32Array(codes.length);
  for (let row = 0; row < codes.length; row++) {
    const code = codes[row] ?? -1;
    out[row] = code < 0 || changed[code] === null ? -1 : code;
  }
  const kind = isCoded(column) ? column.kind : 'category';
  return codedColumn(
    column.name,
    changed.map((text) => text ?? ''),
    out,
    kind,
  );
}

/** Numbers by the text of each cell, each distinct one computed once; NaN makes a cell missing. */
export function numbersByText(column: Column, numberOf: (text: string) => number): Float64Array {
  const { labels, codes } = labelsOf(column);
  const values = Float64Array.from(labels, numberOf);
  const out = new Float64Array(codes.length);
  for (let row = 0; row < codes.length; row++) {
    const code = codes[row] ?? -1;
    out[row] = code < 0 ? NaN : (values[code] ?? NaN);
  }
  return out;
}

/** A column of nought and one as the classes that it stands for; any other as it is. */
export function asClass(column: Column): Column {
  if (column.kind !== 'number') return column;
  const values = new Set(column.values.filter((value) => !Number.isNaN(value)));
  if (values.size !== 2 || !values.has(0) || !values.has(1)) return column;
  const { labels, codes } = labelsOf(column);
  return codedColumn(column.name, labels, codes, 'category');
}
