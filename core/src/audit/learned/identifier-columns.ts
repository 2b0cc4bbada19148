import { cellText, type Column, type NumberColumn } from '../../data/table/table.js';

const numbers = (name: string, values: Float64Array): NumberColumn => ({ kind: 'number', name, values });

/**
 * What can be read off the identifiers of rows: their number, its last digit and its remainders by 2 and 3, the letters
 * before and after it, and how long they are.
 */
export function identifierColumns(column: Column, rowCount: number): Column[] {
  const texts = Array.from({ length: rowCount }, (_, row) => cellText(column, row) ?? '');
  const number = Float64Array.from(texts, (text) => {
    const digits = /\d{1,15}(?!.*\d)/.exec(text)?.[0];
    return digits === undefined ? NaN : Number(digits);
  });
  return [
    numbers('its number', number),
    numbers(
      'the last digit',
      number.map((value) => value % 10),
    ),
    numbers(
      'odd or even',
      number.map((value) => value % 2),
    ),
    numbers(
      'the remainder by 3',
      number.map((value) => value % 3),
    ),
    numbers(
      'its length',
      Float64Array.from(texts, (text) => text.length),
    ),
    letters(
      'the letters before the number',
      texts.map((text) => /^\D*/.exec(text)?.[0] ?? ''),
    ),
    letters(
      'the letters after the number',
      texts.map((text) => /\D*$/.exec(text)?.[0] ?? ''),
    ),
    letters(
      'its first letter',
      texts.map((text) => text.slice(0, 1)),
    ),
  ];
}

/** Texts as a category; one that has nearly as many values as rows says nothing that a tree could learn. */
function letters(name: string, texts: readonly string[]): Column {
  const levels = [...new Set(texts)].sort();
  const codeOf = new Map(levels.map((level, code) => [level, code]));
  return { kind: 'category', name, levels, codes: Int32Array.from(texts, (text) => codeOf.get(text) ?? -1) };
}
