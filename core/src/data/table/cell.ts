import { decimalIn } from './decimal.js';
import type { TimeFormat } from './table.js';

/** Cells that stand for "no value", compared as they are written. */
export const MISSING_MARKERS: readonly string[] = ['', ' ', 'NA', 'N/A', 'NaN', 'null', '?'];

const NUMBER = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/;
const INTEGER = /^[+-]?\d+$/;
const LEADING_ZERO = /^[+-]?0\d/;
const TIME = /^(\d{4})-(\d\d)-(\d\d)(?:([T ])(\d\d):(\d\d)(?::(\d\d))?(Z)?)?$/;
const BOOLEAN = /^(?:true|false)$/i;

/**
 * The number that a cell holds, or NaN where it holds none. Codes with leading zeros and integers beyond 2^53 are
 * not numbers: they would lose digits.
 */
export function numberOf(text: string): number {
  const plain = plainNumber(text);
  if (!Number.isNaN(plain)) return plain;
  const trimmed = text.trim();
  if (!NUMBER.test(trimmed) || LEADING_ZERO.test(trimmed)) return NaN;
  const value = Number(trimmed);
  if (INTEGER.test(trimmed) && !Number.isSafeInteger(value)) return NaN;
  return Number.isFinite(value) ? value : NaN;
}

const scratch = new Uint8Array(24);

/** The number of a short text, without taking it apart; NaN where that cannot be done. */
function plainNumber(text: string): number {
  const { length } = text;
  if (length > scratch.length) return NaN;
  for (let i = 0; i < length; i++) {
    const code = text.charCodeAt(i);
    if (code > 127) return NaN;
    scratch[i] = code;
  }
  return decimalIn(scratch, 0, length);
}

export type CellType = 'number' | 'code' | 'time' | 'boolean' | 'text';

/** What a single cell could be; `code` is a text of digits that would lose some as a number. */
export function typeOfCell(text: string): CellType {
  if (!Number.isNaN(numberOf(text))) return 'number';
  if (NUMBER.test(text.trim())) return 'code';
  if (timeOf(text)) return 'time';
  return BOOLEAN.test(text) ? 'boolean' : 'text';
}

/** An ISO 8601 date or date-time, in milliseconds since 1970-01-01 UTC, and how it is written. */
export function timeOf(text: string): { value: number; format: TimeFormat } | null {
  const match = TIME.exec(text);
  if (!match) return null;
  const [, year, month, day, separator, hour, minute, second, zulu] = match;
  const value = Date.UTC(
    Number(year),
    Number(month) - 1,
    Number(day),
    Number(hour ?? 0),
    Number(minute ?? 0),
    Number(second ?? 0),
  );
  const format: TimeFormat = {
    separator: separator === 'T' || separator === ' ' ? separator : null,
    seconds: second !== undefined,
    zulu: zulu !== undefined,
  };
  // Date.UTC carries the 30th of February over into March; such a cell is no date.
  const back = new Date(value).toISOString();
  const same =
    back.slice(0, 10) === text.slice(0, 10) &&
    (hour === undefined || back.slice(11, 16) === `${hour}:${minute}`);
  return same ? { value, format } : null;
}

const DECIMAL_COMMA = /^[+-]?\d+,\d+$/;
const THOUSANDS = /^[+-]?\d{1,3}(?:,\d{3})+(?:\.\d+)?$/;

/** Why a text that ought to be a number is none, as the end of a sentence. */
export function whatIsWrongWith(text: string): string {
  const trimmed = text.trim();
  if (THOUSANDS.test(trimmed)) return 'has commas between thousands';
  if (DECIMAL_COMMA.test(trimmed)) return 'has a decimal comma';
  if (/^[+-]?inf(inity)?$/i.test(trimmed)) return 'is infinite';
  if (/^[+-]?[\d.]+\s*%$/.test(trimmed)) return 'is a percentage';
  if (NUMBER.test(trimmed)) return 'would lose digits as a number';
  return 'is not a number';
}

/**
 * How commas stand in texts of digits: as decimal points beyond doubt, so that they may be read; between thousands;
 * or so that both could be meant. Null where commas are not what is in the way.
 */
export function commasIn(texts: readonly string[]): 'decimal' | 'thousands' | 'either' | null {
  const with_ = texts.map((text) => text.trim()).filter((text) => text.includes(','));
  const plain = texts.filter((text) => !text.includes(','));
  if (with_.length === 0 || plain.some((text) => Number.isNaN(numberOf(text)))) return null;
  if (with_.every((text) => DECIMAL_COMMA.test(text))) {
    if (with_.every((text) => THOUSANDS.test(text))) return 'either';
    return plain.some((text) => text.includes('.')) ? null : 'decimal';
  }
  return with_.every((text) => THOUSANDS.test(text)) ? 'thousands' : null;
}

const DATE_FORMS: readonly { readonly form: RegExp; readonly name: string }[] = [
  { form: /^\d{4}-\d\d-\d\d$/, name: 'year-month-day' },
  { form: /^\d{4}-\d\d-\d\d[T ]\d\d:\d\d(?::\d\d)?Z?$/, name: 'date and time' },
  { form: /^\d{1,2}\.\d{1,2}\.\d{2,4}$/, name: 'with points' },
  { form: /^\d{1,2}\/\d{1,2}\/\d{2,4}$/, name: 'with strokes' },
  { form: /^\d{4}[./]\d{1,2}[./]\d{1,2}$/, name: 'year first' },
];

/** The form of a date, for saying how dates are written; null for what is no date. */
export const dateFormOf = (text: string): string | null =>
  DATE_FORMS.find(({ form }) => form.test(text))?.name ?? null;
