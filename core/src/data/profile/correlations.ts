import { at } from '../../foundation/numbers.js';
import { labelsOf, type Labelled } from '../table/labels.js';
import { isCoded, type Column, type Table } from '../table/table.js';
import { meanOf } from './number-summary.js';
import { ranks } from './ranks.js';
import { correctedRatio, correctedV, correlationRatio, cramersV, pearson, spearman } from './association.js';

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

/** Correlations of all columns of numbers with one another. */
export function correlations(table: Table, measure: 'Pearson' | 'Spearman' = 'Pearson'): CorrelationMatrix {
  const numbers = table.columns.filter((column) => column.kind === 'number');
  // Ranks of a column without gaps are the same for every partner, and so are its deviations from its mean.
  const ready = numbers.map(({ values }) =>
    lacksNone(values) ? deviationsOf(measure === 'Pearson' ? values : ranks(values)) : null,
  );
  const of = measure === 'Pearson' ? pearson : spearman;
  const values = numbers.map(() => new Array<number | null>(numbers.length).fill(null));
  numbers.forEach((column, i) => {
    for (let j = 0; j <= i; j++) {
      const [a, b] = [ready[i], ready[j]];
      const value = a && b ? product(a, b) : of(column.values, at(numbers, j).values);
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

interface Deviations {
  readonly values: Float64Array;
  readonly squares: number;
}

/** Deviations from the mean, and the sum of their squares. */
function deviationsOf(values: Float64Array): Deviations {
  const mean = meanOf(values);
  const out = new Float64Array(values.length);
  let squares = 0;
  for (let i = 0; i < values.length; i++) {
    const d = (values[i] ?? 0) - mean;
    out[i] = d;
    squares += d * d;
  }
  return { values: out, squares };
}

function product(
  { values: a, squares: aa }: Deviations,
  { values: b, squares: bb }: Deviations,
): number | null {
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
  const r = (first + second + third + fourth) / Math.sqrt(aa * bb);
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
