import { SieveError } from '../../../foundation/errors.js';
import { timeOf } from '../../table/cell.js';
import { columnNamed, type Column, type Table } from '../../table/table.js';
import { checkNew, keepRows } from '../rows.js';
import { never, stepKind, withColumns } from '../step.js';

const DAY = 86_400_000;
const HOUR = 3_600_000;
/** 1970-01-01 was a Thursday, day 4 of ISO 8601's week. */
const FIRST_WEEKDAY = 3;

/** Day of the week from 1 for Monday to 7 for Sunday (ISO 8601). */
const weekdayOf = (time: number): number => ((((Math.floor(time / DAY) + FIRST_WEEKDAY) % 7) + 7) % 7) + 1;

/** Each part of a date, by its name; times are in UTC, as they were read. */
const PARTS: Readonly<Record<string, (time: number) => number>> = {
  year: (time) => new Date(time).getUTCFullYear(),
  month: (time) => new Date(time).getUTCMonth() + 1,
  day: (time) => new Date(time).getUTCDate(),
  weekday: weekdayOf,
  weekend: (time) => (weekdayOf(time) > 5 ? 1 : 0),
  hour: (time) => Math.floor((((time % DAY) + DAY) % DAY) / HOUR),
};

const timesOf = (table: Table, name: string): Float64Array => {
  const column = columnNamed(table, name);
  return column.kind === 'time' ? column.values : new Float64Array(table.rowCount).fill(NaN);
};

function derived(table: Table, name: string, times: Float64Array, of: (time: number) => number): Column {
  checkNew(table, name, 'column');
  return { kind: 'number', name, values: times.map((time) => (Number.isNaN(time) ? NaN : of(time))) };
}

function dateOf(text: string, field: string): number {
  const time = timeOf(text.trim());
  if (!time) throw new SieveError('step', `“${text}” is no date; write one as 2026-03-01.`, { field });
  return time.value;
}

export const dateParts = stepKind({
  key: 'date-parts',
  title: 'Take dates apart',
  about:
    'Adds columns for parts of a date: weekdays count from 1 for Monday to 7 for Sunday (ISO 8601); weekend is 1 on Saturdays and Sundays; holiday is 1 on the days of a list.',
  parameters: {
    column: { type: 'column', label: 'the column of dates', of: ['time'] },
    parts: {
      type: 'several',
      label: 'the parts',
      choices: [...Object.keys(PARTS), 'holiday'],
    },
    holidays: { type: 'texts', label: 'the holidays, as 2026-03-01', none: 'none' },
  },
  sentence: ({ parts }) =>
    parts.includes('holiday')
      ? 'Take {parts} from {column}; holidays are {holidays}.'
      : 'Take {parts} from {column}.',
  learns: never,
  apply: (table, { column, parts, holidays }) => {
    const times = timesOf(table, column);
    const free = new Set(holidays.map((text) => Math.floor(dateOf(text, 'holidays') / DAY)));
    if (parts.includes('holiday') && free.size === 0)
      throw new SieveError('step', 'Give the holidays.', { field: 'holidays' });
    const added = parts.map((part) =>
      derived(
        table,
        `${column}_${part}`,
        times,
        PARTS[part] ?? ((time) => (free.has(Math.floor(time / DAY)) ? 1 : 0)),
      ),
    );
    return { table: withColumns(table, added) };
  },
});

export const daysSince = stepKind({
  key: 'days-since',
  title: 'Count days since a day',
  about: 'Adds a column with the days from a given day to each date, with a fraction for the time of day.',
  parameters: {
    column: { type: 'column', label: 'the column of dates', of: ['time'] },
    origin: { type: 'text', label: 'the day from which to count', start: '1970-01-01' },
  },
  sentence: () => 'Count the days from {origin} to {column}.',
  learns: never,
  apply: (table, { column, origin }) => {
    const from = dateOf(origin, 'origin');
    const times = timesOf(table, column);
    return {
      table: withColumns(table, [derived(table, `${column}_days`, times, (time) => (time - from) / DAY)]),
    };
  },
});

export const recentDays = stepKind({
  key: 'recent-days',
  title: 'Keep recent days only',
  about: 'Keeps the rows of so many days up to the latest date; rows without a date fall out.',
  reason: 'too early',
  parameters: {
    days: { type: 'number', label: 'how many days', min: 1, start: 365 },
    column: { type: 'column', label: 'the column of dates', of: ['time'] },
  },
  sentence: () => 'Keep the last {days} days by {column}.',
  learns: never,
  apply: (table, { days, column }) => {
    const times = timesOf(table, column);
    const latest = times.reduce((last, time) => (time > last ? time : last), -Infinity);
    return keepRows(table, (row) => (times[row] ?? NaN) > latest - days * DAY);
  },
});
