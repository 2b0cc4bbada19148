import { at } from '../../foundation/numbers.js';

/** Share of the rows that two files must have the same number in. */
const SAME = 0.9;
/** Distinct numbers in a file, as a share of its rows: below it models that give few values are alike by themselves. */
const DISTINCT = 0.5;
/** Rows that differ, as a share of those that do, by more than half a standard deviation of a file. */
const FAR = 0.5;

/** One file of predictions: a number for each row. */
export interface FileOfNumbers {
  /** Id of the answer. */
  readonly answer: string;
  readonly student: string;
  /** Probabilities of one class, or numbers; aligned to the identifiers of the question. */
  readonly values: Float64Array;
}

/** Files of two students with the same numbers but for a few rows. */
export interface NearlySame {
  readonly first: string;
  readonly second: string;
  readonly same: number;
  /** Rows in which they differ. */
  readonly differing: readonly number[];
}

/**
 * Files of two students that have the same numbers in at least nine rows of ten and quite other ones in the rest. Two runs
 * of one program give the same file, and other settings give other numbers in most rows, or near ones; what this finds is a
 * file of which some rows were written over. Not found are files whose rows were all changed, nor those of few distinct numbers.
 *
 * @param unknown whether a feature of a row is missing: programs that fill these differently differ there alone
 */
export function nearlySameFiles(
  files: readonly FileOfNumbers[],
  unknown: (row: number) => boolean,
): NearlySame[] {
  const able = files.filter(({ values }) => new Set(values).size >= DISTINCT * values.length);
  const found: NearlySame[] = [];
  able.forEach((first, i) => {
    for (const second of able.slice(i + 1)) {
      if (first.student === second.student) continue;
      const differing = differingRows(first.values, second.values);
      if (differing === null || differing.length === 0) continue;
      if (differing.every(unknown) || isCut(first, differing) || isCut(second, differing)) continue;
      const spread = Math.max(spreadOf(first.values), spreadOf(second.values));
      const far = differing.filter(
        (row) => Math.abs(at(first.values, row) - at(second.values, row)) > spread / 2,
      );
      if (far.length < FAR * differing.length) continue;
      const same = first.values.length - differing.length;
      found.push({ first: first.answer, second: second.answer, same, differing });
    }
  });
  return found;
}

/** Rows in which two files differ; null where these are more than a few. */
function differingRows(a: Float64Array, b: Float64Array): number[] | null {
  const most = (1 - SAME) * a.length;
  const rows: number[] = [];
  for (let row = 0; row < a.length; row++) {
    if (a[row] === b[row]) continue;
    rows.push(row);
    if (rows.length > most) return null;
  }
  return rows;
}

/** Whether a file has its lowest or highest number in all these rows: numbers beyond a bound were cut to it. */
function isCut({ values }: FileOfNumbers, rows: readonly number[]): boolean {
  const [low, high] = values.reduce(
    ([least, most], value) => [Math.min(least, value), Math.max(most, value)],
    [Infinity, -Infinity],
  );
  return rows.every((row) => values[row] === low || values[row] === high);
}

function spreadOf(values: Float64Array): number {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
}
