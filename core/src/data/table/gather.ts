import { at } from '../../foundation/numbers.js';
import { numberOf } from './cell.js';
import type { RawCells, RawTexts } from './infer.js';

/**
 * The cells of a run of rows: numbers where all present ones are numbers, else a dictionary of texts.
 *
 * @param cell the text of each row; null where there is none
 * @param lineOf the line of the file, or for formats without lines the row, on which a cell is; from 1
 * @param missing texts that stand for no value
 * @param asTexts never numbers, because another run of the column holds texts
 */
export function gatherCells(
  rows: number,
  cell: (row: number) => string | null,
  lineOf: (row: number) => number,
  missing: ReadonlySet<string>,
  asTexts = false,
): RawCells {
  if (!asTexts) {
    const numbersMayBeMissing = [...missing].some((text) => !Number.isNaN(numberOf(text)));
    const values = new Float64Array(rows);
    let row = 0;
    for (; row < rows; row++) {
      const text = cell(row);
      if (text === null) {
        values[row] = NaN;
        continue;
      }
      const value = numberOf(text);
      const isMissing = (numbersMayBeMissing || Number.isNaN(value)) && missing.has(text);
      if (Number.isNaN(value) && !isMissing) break;
      values[row] = isMissing ? NaN : value;
    }
    if (row === rows) return { kind: 'numbers', values };
  }
  const codeOf = new Map<string, number>();
  const firstLines: number[] = [];
  const codes = new Int32Array(rows);
  for (let row = 0; row < rows; row++) {
    const text = cell(row);
    let code = text === null ? -1 : codeOf.get(text);
    if (code === undefined && text !== null) {
      code = missing.has(text) ? -1 : codeOf.size;
      if (code >= 0) {
        codeOf.set(text, code);
        firstLines.push(lineOf(row));
      }
    }
    codes[row] = code ?? -1;
  }
  return { kind: 'texts', texts: [...codeOf.keys()], firstLines, codes };
}

/** Whether runs of a column can be joined: all of numbers, or all of texts. */
export const areAlike = (runs: readonly RawCells[]): boolean =>
  runs.every((run) => run.kind === 'numbers') || runs.every((run) => run.kind === 'texts');

/** The runs of a column, in order, as one; runs of numbers among texts must have been gathered as texts. */
export function joinCells(runs: readonly RawCells[]): RawCells {
  const [only] = runs;
  if (only && runs.length === 1) return only;
  const rows = runs.reduce((n, run) => n + (run.kind === 'numbers' ? run.values : run.codes).length, 0);
  const texts = runs.filter((run): run is RawTexts => run.kind === 'texts');
  if (texts.length === 0) {
    const values = new Float64Array(rows);
    let row = 0;
    for (const run of runs) {
      if (run.kind !== 'numbers') continue;
      values.set(run.values, row);
      row += run.values.length;
    }
    return { kind: 'numbers', values };
  }
  if (texts.length < runs.length) throw new TypeError('runs of numbers among texts');
  const codeOf = new Map<string, number>();
  const firstLines: number[] = [];
  const codes = new Int32Array(rows);
  let row = 0;
  for (const run of texts) {
    const own = Int32Array.from(run.texts, (text, i) => {
      const known = codeOf.get(text);
      if (known !== undefined) return known;
      codeOf.set(text, codeOf.size);
      firstLines.push(at(run.firstLines, i));
      return codeOf.size - 1;
    });
    for (let i = 0; i < run.codes.length; i++) {
      const code = run.codes[i] ?? -1;
      codes[row++] = code < 0 ? -1 : (own[code] ?? -1);
    }
  }
  return { kind: 'texts', texts: [...codeOf.keys()], firstLines, codes };
}
