import { UTCDate } from '@date-fns/utc';
import { parse } from 'date-fns/parse';
import { numberOf, timeOf } from './cell.js';

/** Which of day and month comes first in dates such as 03/04/2021. */
export type DateOrder = 'day' | 'month';

/** Two-digit years from here on are of the 1900s, those before it of the 2000s: as POSIX reads them. */
export const USUAL_PIVOT = 69;

const SECOND = 1000;
const MINUTE = 60 * SECOND;
const HOUR = 60 * MINUTE;

/** Forms of a date in which the order of day and month is no question. */
const PLAIN = [
  'yyyy-M-d',
  'yyyy/M/d',
  'yyyy.M.d',
  'yyyyMMdd',
  'd MMM yyyy',
  'd-MMM-yyyy',
  'd/MMM/yyyy',
  'd. MMM yyyy',
  'd MMMM yyyy',
  'd. MMMM yyyy',
  'MMM d yyyy',
  'MMMM d yyyy',
  'MMM d, yyyy',
  'MMMM d, yyyy',
] as const;
const FORMS: Readonly<Record<DateOrder, readonly string[]>> = {
  day: ['d.M.yyyy', 'd/M/yyyy', 'd-M-yyyy', ...PLAIN],
  month: ['M/d/yyyy', 'M-d-yyyy', 'M.d.yyyy', ...PLAIN],
};

/** A date, then perhaps a time with seconds and their fraction, half of the day, and offset from UTC. */
const WITH_TIME =
  /^(.*?\d)(?:[T\s]+|,\s*)(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,](\d{1,9}))?)?\s*([ap]\.?m\.?)?\s*(Z|[+-]\d{2}:?\d{2})?$/i;
/** A date whose last number is a year of two digits. */
const SHORT_YEAR = /^(\d{1,2}([./-]|\s)(?:\d{1,2}|[a-z]{3,9})\2)(\d{2})$/i;
const NOW = new UTCDate(2000, 0, 1);
/** Years have four digits. */
const EARLIEST = Date.UTC(1000, 0, 1);
const COMPACT_DIGITS = 8;

/** A date alone, in milliseconds; NaN for a text that is none. The form that fitted last is tried first. */
class DateForms {
  private last = 0;

  constructor(private readonly forms: readonly string[]) {}

  read(text: string): number {
    if (/^\d+$/.test(text) && text.length !== COMPACT_DIGITS) return NaN;
    for (let i = 0; i < this.forms.length; i++) {
      const place = i === 0 ? this.last : i <= this.last ? i - 1 : i;
      const value = parse(text, this.forms[place] ?? '', NOW).getTime();
      if (!(value >= EARLIEST)) continue;
      this.last = place;
      return value;
    }
    return NaN;
  }
}

/** Milliseconds from midnight in UTC; NaN for a time that is none. */
function timeIn([, , hours, minutes, seconds, fraction, half, offset]: RegExpExecArray): number {
  let hour = Number(hours);
  if (half !== undefined) {
    if (hour < 1 || hour > 12) return NaN;
    hour = (hour % 12) + (half.toLowerCase().startsWith('p') ? 12 : 0);
  }
  if (hour > 23 || Number(minutes) > 59 || Number(seconds ?? 0) > 59) return NaN;
  const [sign = '', away = '0', more = '0'] = /^([+-])(\d{2}):?(\d{2})$/.exec(offset ?? '')?.slice(1) ?? [];
  const east = (sign === '-' ? -1 : 1) * (Number(away) * HOUR + Number(more) * MINUTE);
  return (
    hour * HOUR +
    Number(minutes) * MINUTE +
    Number(seconds ?? 0) * SECOND +
    Math.round(Number(`0.${fraction ?? '0'}`) * SECOND) -
    east
  );
}

/**
 * Reads dates and date-times as they are usually written: 2021-04-03, 2021/4/3, 20210403, 3.4.2021, 3/4/2021, 3 April 2021,
 * 29-APR-50, April 3, 2021, each perhaps with a time: 14:05, 14:05:30.25, 2:05 pm, 14:05+02:00. Without an offset a time is
 * taken as UTC. Names of months are English.
 *
 * @param order which comes first where numbers alone stand for day and month
 * @param pivot two-digit years from it on are of the 1900s
 * @returns a function from a text to milliseconds since 1970-01-01 UTC, NaN for a text that is no date
 */
export function dateReader(order: DateOrder, pivot: number): (text: string) => number {
  const forms = new DateForms(FORMS[order]);
  return (given) => {
    const text = given.trim();
    const iso = timeOf(text);
    if (iso) return iso.value;
    if (!/^\w/.test(text) || !/\d/.test(text)) return NaN;
    const match = WITH_TIME.exec(text);
    const date = (match?.[1] ?? text).replace(/\s+/g, ' ').replace(SHORT_YEAR, (_, before, __, year) => {
      const full = Number(year) >= pivot ? `19${String(year)}` : `20${String(year)}`;
      return `${String(before)}${full}`;
    });
    return forms.read(date) + (match ? timeIn(match) : 0);
  };
}

/** Seconds or milliseconds since 1970-01-01 UTC, in milliseconds; NaN for a text that is no number. */
export const sinceEpoch =
  (unit: 'seconds' | 'milliseconds') =>
  (text: string): number => {
    const value = numberOf(text.trim()) * (unit === 'seconds' ? SECOND : 1);
    // What a date can hold.
    return Math.abs(value) <= 8.64e15 ? Math.round(value) : NaN;
  };

/** How dates in texts may be read: with the day first, the month first, or either, which nobody can tell. */
export type DateReading = DateOrder | 'either';

/** So many texts, evenly from all of them, say whether all are dates. */
const LOOKED_AT = 400;
/** Of these the first say that there are none. */
const FIRST_LOOK = 20;

/**
 * How most of some texts can be read as dates.
 *
 * @param least share of the texts that must be dates
 * @returns null where they are none
 */
export function datesIn(
  all: readonly string[],
  least: number,
): { reading: DateReading; share: number } | null {
  const step = Math.max(1, Math.ceil(all.length / LOOKED_AT));
  const texts = all.filter((_, i) => i % step === 0);
  const readers = (['day', 'month'] as const).map((order) => dateReader(order, USUAL_PIVOT));
  const isNone = (text: string) => readers.every((read) => Number.isNaN(read(text)));
  if (texts.slice(0, FIRST_LOOK).every(isNone)) return null;
  const [day = [], month = []] = readers.map((read) => texts.map(read));
  const known = (values: readonly number[]) => values.filter((value) => !Number.isNaN(value)).length;
  const [byDay, byMonth] = [known(day), known(month)];
  const most = Math.max(byDay, byMonth);
  if (most < 2 || most < least * texts.length) return null;
  const share = most / texts.length;
  if (byDay !== byMonth) return { reading: byDay > byMonth ? 'day' : 'month', share };
  const isSame = day.every((value, i) => value === month[i] || Number.isNaN(value));
  return { reading: isSame ? 'day' : 'either', share };
}
