import { numberOf } from '../table/cell.js';
import type { Compiled, Type } from './compiled.js';

/** What a part of a formula is for a row; null where it is missing. */
type Value = string | number | null;

/** A function of texts: what it takes, in order, and what it gives. A missing part makes the whole missing. */
export interface TextFunction {
  readonly takes: readonly ('text' | 'number')[];
  readonly gives: Extract<Type, 'text' | 'number' | 'truth'>;
  readonly compute: (...values: never[]) => string | number;
}

const texts = (takes: TextFunction['takes'], compute: (...values: never[]) => string): TextFunction => ({
  takes,
  gives: 'text',
  compute,
});
const truths = (compute: (text: string, what: string) => boolean): TextFunction => ({
  takes: ['text', 'text'],
  gives: 'truth',
  compute: (text: string, what: string) => Number(compute(text, what)),
});

/** The functions of texts; places count characters from 1. */
export const TEXT_FUNCTIONS: Readonly<Record<string, TextFunction>> = {
  trim: texts(['text'], (text: string) => text.trim()),
  lower: texts(['text'], (text: string) => text.toLowerCase()),
  upper: texts(['text'], (text: string) => text.toUpperCase()),
  replace: texts(['text', 'text', 'text'], (text: string, what: string, by: string) =>
    what === '' ? text : text.replaceAll(what, () => by),
  ),
  part: texts(['text', 'number', 'number'], (text: string, from: number, count: number) =>
    Array.from(text)
      .slice(Math.max(0, from - 1), Math.max(0, from - 1 + count))
      .join(''),
  ),
  length: { takes: ['text'], gives: 'number', compute: (text: string) => Array.from(text).length },
  number: { takes: ['text'], gives: 'number', compute: (text: string) => numberOf(text.trim()) },
  contains: truths((text, what) => text.includes(what)),
  starts: truths((text, what) => text.startsWith(what)),
  ends: truths((text, what) => text.endsWith(what)),
};

/** A text function of parts whose types fit. */
export function textCall({ gives, compute }: TextFunction, parts: readonly Compiled[]): Compiled {
  const valuesAt = (row: number): Value[] =>
    parts.map((part): Value => {
      const value = part.of(row);
      return typeof value === 'number' && Number.isNaN(value) ? null : value;
    });
  const said = (row: number): string | number | null => {
    const values = valuesAt(row);
    return values.includes(null) ? null : compute(...(values as never[]));
  };
  if (gives !== 'text') return { type: gives, of: (row) => Number(said(row) ?? NaN) };
  return {
    type: 'text',
    // A text without a character is a missing cell.
    of: (row) => {
      const text = said(row);
      return text === null || text === '' ? null : String(text);
    },
  };
}
