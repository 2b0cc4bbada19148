import { codedColumn } from '../table/recode.js';
import type { Column, Table } from '../table/table.js';
import { compileFormula, fail } from './compile.js';
import type { Compiled } from './compiled.js';
import { parseFormula } from './parse.js';

/**
 * The column that a formula gives: numbers, dates, categories, or true and false. Where a cell that it needs is
 * missing, or where a number is undefined or infinite, its cell is missing.
 *
 * @param field where errors say that they are
 * @throws SieveError `formula`
 */
export function columnOf(table: Table, formula: string, name: string, field: string): Column {
  const compiled = compileFormula(parseFormula(formula, field), table, field);
  switch (compiled.type) {
    case 'number':
      return { kind: 'number', name, values: numbersOf(table.rowCount, compiled) };
    case 'time': {
      const format = { separator: null, seconds: false, zulu: false };
      return { kind: 'time', name, values: numbersOf(table.rowCount, compiled), format };
    }
    case 'truth': {
      const truths = numbersOf(table.rowCount, compiled);
      const codes = Int32Array.from(truths, (truth) => (Number.isNaN(truth) ? -1 : truth));
      return codedColumn(name, ['false', 'true'], codes, 'boolean');
    }
    case 'text': {
      const codeOf = new Map<string, number>();
      const codes = new Int32Array(table.rowCount).fill(-1);
      for (let row = 0; row < table.rowCount; row++) {
        const text = compiled.of(row);
        if (text === null) continue;
        const code = codeOf.get(text) ?? codeOf.size;
        codeOf.set(text, code);
        codes[row] = code;
      }
      return codedColumn(name, [...codeOf.keys()], codes);
    }
  }
}

/**
 * For each row 1 where a condition holds, 0 where it does not, NaN where that is not known because a cell is missing.
 *
 * @throws SieveError `formula`
 */
export function truthOf(table: Table, condition: string, field: string): Float64Array {
  const compiled = compileFormula(parseFormula(condition, field), table, field);
  if (compiled.type !== 'truth')
    throw fail(field, 'A condition compares something, for instance with == or <.');
  return numbersOf(table.rowCount, compiled);
}

function numbersOf(rowCount: number, compiled: Exclude<Compiled, { type: 'text' }>): Float64Array {
  const values = new Float64Array(rowCount);
  for (let row = 0; row < rowCount; row++) {
    const value = compiled.of(row);
    values[row] = Number.isFinite(value) ? value : NaN;
  }
  return values;
}
