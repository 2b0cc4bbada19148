import {
  cellText,
  type Column,
  columnNamed,
  isCoded,
  isMissing,
  type Table,
} from '../../../data/table/table.js';
import { SieveError } from '../../../foundation/errors.js';

/** One factor of a term: what a column contributes. */
export type Factor =
  | { readonly kind: 'number'; readonly column: string; readonly power: number }
  | { readonly kind: 'log'; readonly column: string }
  | { readonly kind: 'level'; readonly column: string; readonly level: string };

/** A term with more colons is one name. */
const MOST_PIECES = 12;

const INTERCEPT = ['(intercept)', 'intercept', 'const', '(const)', 'constant', '(constant)', '_cons'];

/**
 * The factors of a term: none for the intercept; `a:b` is a product, `a^2` a power, `log(a)` the natural logarithm,
 * `column=level` 1 where the column has that level, also as `column[T.level]`. A name that is a column is taken as a whole first.
 *
 * @param isColumn whether a column of that name exists
 */
export function factorsOf(term: string, isColumn: (name: string) => boolean): Factor[] {
  if (!isColumn(term) && INTERCEPT.includes(term.toLowerCase())) return [];
  const pieces = term.split(':');
  // Columns and levels may have colons themselves: pieces are joined where only that gives columns throughout.
  const from = (start: number): Factor[] | null => {
    if (start === pieces.length) return [];
    for (let end = start + 1; end <= pieces.length; end++) {
      const factor = factorOf(pieces.slice(start, end).join(':'), isColumn);
      const rest = factor && isColumn(factor.column) ? from(end) : null;
      if (factor && rest) return [factor, ...rest];
    }
    return null;
  };
  const whole = isColumn(term) || pieces.length > MOST_PIECES ? null : from(0);
  return whole ?? [factorOf(term, isColumn) ?? plain(term)];
}

const plain = (column: string): Factor => ({ kind: 'number', column, power: 1 });

function factorOf(text: string, isColumn: (name: string) => boolean): Factor | null {
  const name = text.trim();
  if (name === '') return null;
  if (isColumn(name)) return plain(name);
  const inner = /^I\((.+)\)$/.exec(name)?.[1]?.trim() ?? name;
  const log = /^log\((.+)\)$/.exec(inner)?.[1];
  if (log !== undefined) return { kind: 'log', column: log.trim() };
  const treated = /^(?:C\()?(.+?)\)?\[T\.(.+)\]$/.exec(name);
  if (treated?.[1] !== undefined && treated[2] !== undefined)
    return { kind: 'level', column: treated[1], level: treated[2] };
  const power = /^(.+?)\s*\^\s*(-?\d+(?:\.\d+)?)$/.exec(inner);
  if (power?.[1] !== undefined) return { kind: 'number', column: power[1], power: Number(power[2]) };
  for (let i = inner.indexOf('='); i > 0; i = inner.indexOf('=', i + 1)) {
    const column = inner.slice(0, i).trim();
    if (isColumn(column) || inner.indexOf('=', i + 1) < 0)
      return { kind: 'level', column, level: inner.slice(i + 1).trim() };
  }
  return plain(inner);
}

/** Multiplies the value of each row by what a factor is for it; NaN where it cannot be computed. */
export type Multiply = (values: Float64Array, factor: Factor) => void;

/** A higher power is taken by the general function, which is slower. */
const MOST_PRODUCTS = 8;

/**
 * The factors of a table. Numbers of a column, and their logarithms, are made once for all of its terms.
 *
 * @throws SieveError `model-file` where a column of texts is taken as a number
 */
export function factorsIn(table: Table, columnOf: (name: string) => string): Multiply {
  const numbers = new Map<string, Float64Array>();
  const logs = new Map<string, Float64Array>();
  const numbersOf = (name: string) =>
    made(numbers, name, () => numbersIn(columnNamed(table, columnOf(name)), name));
  const logsOf = (name: string) => made(logs, name, () => numbersOf(name).map(Math.log));
  return (values, factor) => {
    if (factor.kind === 'level')
      multiplyByLevel(values, columnNamed(table, columnOf(factor.column)), factor.level);
    else if (factor.kind === 'log') multiplyByPower(values, logsOf(factor.column), 1);
    else multiplyByPower(values, numbersOf(factor.column), factor.power);
  };
}

function made<T>(known: Map<string, T>, key: string, make: () => T): T {
  const found = known.get(key) ?? make();
  known.set(key, found);
  return found;
}

function multiplyByPower(values: Float64Array, own: Float64Array, power: number): void {
  const isProduct = Number.isInteger(power) && power > 0 && power <= MOST_PRODUCTS;
  for (let times = 0; times < (isProduct ? power : 1); times++)
    for (let row = 0; row < values.length; row++) {
      const value = own[row] ?? NaN;
      values[row] = (values[row] ?? NaN) * (isProduct ? value : value ** power);
    }
}

function multiplyByLevel(values: Float64Array, column: Column, level: string): void {
  const wanted = isCoded(column) ? column.levels.indexOf(level) : -1;
  for (let row = 0; row < values.length; row++) {
    const hasLevel = isCoded(column) ? column.codes[row] === wanted : cellText(column, row) === level;
    const value = isMissing(column, row) ? NaN : hasLevel ? 1 : 0;
    values[row] = (values[row] ?? NaN) * value;
  }
}

function numbersIn(column: Column, name: string): Float64Array {
  if (!isCoded(column)) return column.values;
  if (column.kind !== 'boolean')
    throw new SieveError(
      'model-file',
      `The term “${name}” takes the column ${column.name} as a number, but it holds texts; write ${name}=LEVEL for each level.`,
      { field: column.name },
    );
  const truths = column.levels.map((level) => ({ true: 1, false: 0 })[level.toLowerCase()] ?? NaN);
  return Float64Array.from(column.codes, (code) => truths[code] ?? NaN);
}
