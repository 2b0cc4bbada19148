import { at } from '../../numbers.js';
import { cellText, columnNamed, isCoded, isMissing, type Table } from '../../table/table.js';
import { SieveError } from '../../errors.js';

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

/**
 * What a factor is for each row; NaN where it cannot be computed.
 *
 * @throws SieveError `model-file` where a column of texts is taken as a number
 */
export function factorValues(factor: Factor, table: Table, columnOf: (name: string) => string): Float64Array {
  const column = columnNamed(table, columnOf(factor.column));
  const rows = { length: table.rowCount };
  if (factor.kind === 'level')
    return Float64Array.from(rows, (_, row) => {
      if (isMissing(column, row)) return NaN;
      return cellText(column, row) === factor.level ? 1 : 0;
    });
  const numberAt = isCoded(column)
    ? (row: number) => {
        const level = column.levels[at(column.codes, row)];
        const truth =
          column.kind === 'boolean' ? { true: 1, false: 0 }[level?.toLowerCase() ?? ''] : undefined;
        return truth ?? NaN;
      }
    : (row: number) => at(column.values, row);
  if (isCoded(column) && column.kind !== 'boolean')
    throw new SieveError(
      'model-file',
      `The term “${factor.column}” takes the column ${column.name} as a number, but it holds texts; write ${factor.column}=LEVEL for each level.`,
      { field: column.name },
    );
  return Float64Array.from(rows, (_, row) => {
    const value = numberAt(row);
    return factor.kind === 'log' ? Math.log(value) : factor.power === 1 ? value : value ** factor.power;
  });
}
