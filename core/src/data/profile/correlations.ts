import { at } from '../../foundation/numbers.js';
import { labelsOf, type Labelled } from '../table/labels.js';
import { isCoded, type Column, type Table } from '../table/table.js';
import { meanOf } from './number-summary.js';
import { ranks } from './ranks.js';
import {
  correctedRatio,
  correctedV,
  correlationRatio,
  cramersV,
  largest,
  pearson,
  spearman,
} from './association.js';

/** How strongly two columns go together, and by which measure. */
export interface Association {
  readonly measure:
    | 'Pearson'
    | 'Spearman'
    | 'Cramér’s V'
    | 'correlation ratio'
    | 'Cramér’s V, corrected'
    | 'correlation ratio, corrected';
  /** From −1 to 1 for the first two, from 0 to 1 for the others; null where it is undefined. */
  readonly value: number | null;
}

/** Correlations of columns of numbers: a symmetric matrix with ones down the diagonal. */
export interface CorrelationMatrix {
  readonly columns: readonly string[];
  readonly values: readonly (readonly (number | null)[])[];
}

/** Correlations of all columns of numbers with one another, each pair over the rows in which both are present. */
export function correlations(table: Table, measure: 'Pearson' | 'Spearman' = 'Pearson'): CorrelationMatrix {
  const numbers = table.columns.filter((column) => column.kind === 'number');
  // Ranks of a column without gaps are the same for every partner; those of another depend on where the partner has gaps.
  const ready = numbers.map(({ values }) =>
    measure === 'Pearson' ? deviationsOf(values) : lacksNone(values) ? deviationsOf(ranks(values)) : null,
  );
  const of = measure === 'Pearson' ? pearson : spearman;
  const values = numbers.map(() => new Array<number | null>(numbers.length).fill(null));
  numbers.forEach((column, i) => {
    for (let j = 0; j <= i; j++) {
      const [a, b] = [ready[i], ready[j]];
      const found = a && b ? correlationOf(a, b) : 'unsure';
      const value = found === 'unsure' ? of(column.values, at(numbers, j).values) : found;
      at(values, i)[j] = value;
      at(values, j)[i] = value;
    }
  });
  return { columns: numbers.map((column) => column.name), values };
}

function lacksNone(values: Float64Array): boolean {
  for (let i = 0; i < values.length; i++) if (Number.isNaN(values[i] ?? 0)) return false;
  return true;
}

/** A column about its mean, on a scale on which squares stay within what doubles hold. */
interface Deviations {
  /** 0 where the value is missing, so that products with it add nothing. */
  readonly values: Float64Array;
  readonly sum: number;
  readonly squares: number;
  /** Rows without a value. */
  readonly missing: Int32Array;
}

function deviationsOf(column: Float64Array): Deviations {
  const missing = rowsWithout(column);
  const present = missing.length === 0 ? column : column.filter((value) => !Number.isNaN(value));
  const mean = meanOf(present);
  const scale = 1 / largest(present);
  const values = new Float64Array(column.length);
  let sum = 0;
  let squares = 0;
  for (let i = 0; i < values.length; i++) {
    const value = column[i] ?? 0;
    const d = Number.isNaN(value) ? 0 : (value - mean) * scale;
    values[i] = d;
    sum += d;
    squares += d * d;
  }
  return { values, sum, squares, missing };
}

function rowsWithout(values: Float64Array): Int32Array {
  let count = 0;
  for (let i = 0; i < values.length; i++) if (Number.isNaN(values[i] ?? 0)) count++;
  const rows = new Int32Array(count);
  for (let i = 0, row = 0; row < count; i++) if (Number.isNaN(values[i] ?? 0)) rows[row++] = i;
  return rows;
}

/** Less of a column's squares than this may be what rounding leaves of none. */
const LEAST_LEFT = 1e-6;

/**
 * Pearson's correlation over the rows in which both are present: sums over all rows, less those of the rows in which
 * the other one is missing, which are few as a rule.
 *
 * @returns `unsure` where hardly anything of a column's spread is left, so that it has to be found from the rows themselves
 */
function correlationOf(a: Deviations, b: Deviations): number | null | 'unsure' {
  if (!(a.squares > 0 && b.squares > 0)) return null;
  const ab = productSum(a.values, b.values);
  const [ofA, ofB] = [without(a, b.missing), without(b, a.missing)];
  const rows = a.values.length - b.missing.length - ofB.present;
  if (rows < 2) return null;
  const aa = ofA.squares - (ofA.sum * ofA.sum) / rows;
  const bb = ofB.squares - (ofB.sum * ofB.sum) / rows;
  if (!(aa > LEAST_LEFT * a.squares && bb > LEAST_LEFT * b.squares)) return 'unsure';
  return ratio(ab - (ofA.sum * ofB.sum) / rows, aa, bb);
}

/** Sums of a column without some rows, and how many of these it had a value in. */
function without({ values, sum, squares, missing }: Deviations, rows: Int32Array) {
  let less = 0;
  let lessSquares = 0;
  let bothMissing = 0;
  let own = 0;
  for (const row of rows) {
    const d = values[row] ?? 0;
    less += d;
    lessSquares += d * d;
    while (own < missing.length && (missing[own] ?? 0) < row) own++;
    if (missing[own] === row) bothMissing++;
  }
  return { sum: sum - less, squares: squares - lessSquares, present: rows.length - bothMissing };
}

function productSum(a: Float64Array, b: Float64Array): number {
  // Four sums, since each addition waits for the one before it.
  let [first, second, third, fourth] = [0, 0, 0, 0];
  const whole = a.length - (a.length % 4);
  for (let i = 0; i < whole; i += 4) {
    first += (a[i] ?? 0) * (b[i] ?? 0);
    second += (a[i + 1] ?? 0) * (b[i + 1] ?? 0);
    third += (a[i + 2] ?? 0) * (b[i + 2] ?? 0);
    fourth += (a[i + 3] ?? 0) * (b[i + 3] ?? 0);
  }
  for (let i = whole; i < a.length; i++) first += (a[i] ?? 0) * (b[i] ?? 0);
  return first + second + third + fourth;
}

function ratio(ab: number, aa: number, bb: number): number | null {
  const r = ab / Math.sqrt(aa * bb);
  return Number.isFinite(r) ? Math.max(-1, Math.min(1, r)) : null;
}

/**
 * The measure that fits two columns: Spearman for two of numbers (Pearson where asked for), Cramér's V for two of
 * classes, the correlation ratio for one of each. Null for free texts.
 */
export function associationOf(
  a: Column,
  b: Column,
  ofNumbers: 'Pearson' | 'Spearman' = 'Spearman',
): Association | null {
  if (a.kind === 'text' || b.kind === 'text') return null;
  if (!isCoded(a) && !isCoded(b)) {
    const of = ofNumbers === 'Pearson' ? pearson : spearman;
    return { measure: ofNumbers, value: of(a.values, b.values) };
  }
  if (isCoded(a) && isCoded(b)) return { measure: 'Cramér’s V', value: cramersV(labelsOf(a), labelsOf(b)) };
  const classes: Labelled = isCoded(a) ? labelsOf(a) : labelsOf(b);
  const numbers = isCoded(a) ? b : a;
  if (isCoded(numbers)) return null;
  return { measure: 'correlation ratio', value: correlationRatio(classes, numbers.values) };
}

/**
 * The same, without what chance alone makes of many classes: columns can be put in the order of their strength.
 * Null for free texts.
 */
export function correctedAssociation(a: Column, b: Column): Association | null {
  const plain = associationOf(a, b);
  if (plain?.measure === 'Cramér’s V')
    return { measure: 'Cramér’s V, corrected', value: correctedV(labelsOf(a), labelsOf(b)) };
  if (plain?.measure !== 'correlation ratio') return plain;
  const [classes, numbers] = isCoded(a) ? [a, b] : [b, a];
  if (isCoded(numbers)) return null;
  return {
    measure: 'correlation ratio, corrected',
    value: correctedRatio(labelsOf(classes), numbers.values),
  };
}

/**
 * An order of columns that puts those next to one another that go together: the strongest pair first, then whatever
 * goes most strongly with either end of the line.
 *
 * @returns indices into the matrix
 */
export function orderByLikeness({ values }: CorrelationMatrix): number[] {
  const strength = (i: number, j: number) => Math.abs(values[i]?.[j] ?? 0);
  const left = new Set(values.keys());
  let best: [number, number] = [0, 0];
  let most = -1;
  for (const i of left)
    for (let j = 0; j < i; j++)
      if (strength(i, j) > most) {
        most = strength(i, j);
        best = [j, i];
      }
  const line = values.length < 2 ? [...left] : best;
  for (const i of line) left.delete(i);
  while (left.size > 0) {
    const [first = 0, last = 0] = [line[0], line.at(-1)];
    let next = { column: -1, strength: -1, atEnd: true };
    for (const column of left) {
      for (const [end, atEnd] of [
        [last, true],
        [first, false],
      ] as const) {
        if (strength(column, end) > next.strength) next = { column, strength: strength(column, end), atEnd };
      }
    }
    if (next.atEnd) line.push(next.column);
    else line.unshift(next.column);
    left.delete(next.column);
  }
  return line;
}
