import { SieveError } from '../../../foundation/errors.js';
import { counted } from '../../../foundation/numbers.js';
import { numberOf } from '../../table/cell.js';
import { dateReader, sinceEpoch, USUAL_PIVOT } from '../../table/dates.js';
import { labelsOf } from '../../table/labels.js';
import { codedColumn, numbersByText, recoded } from '../../table/recode.js';
import { cellText, type Column } from '../../table/table.js';
import { chosen } from '../rows.js';
import { never, stepKind, withColumns } from '../step.js';

const TRUTH: Readonly<Record<string, string>> = {
  true: 'true',
  yes: 'true',
  y: 'true',
  '1': 'true',
  false: 'false',
  no: 'false',
  n: 'false',
  '0': 'false',
};

/** Points, blanks or apostrophes between thousands alone; with a point before other than three digits it is another form. */
const DECIMAL_COMMA = /^[+-]?(?:\d{1,3}(?:[.\s']\d{3})+|\d+)(?:,\d+)?(?:[eE][+-]?\d+)?$/;
/** Commas between thousands alone. */
const WITH_THOUSANDS = /^[+-]?(?:\d{1,3}(?:,\d{3})+|\d+)(?:\.\d+)?(?:[eE][+-]?\d+)?$/;

/** Each target of a conversion: the text of a cell as it is read, or null where it does not convert. */
const READERS = {
  number: (text: string) => finite(numberOf(text)),
  'number with a decimal comma': (text: string) =>
    DECIMAL_COMMA.test(text.trim()) ? finite(numberOf(text.replace(/[.\s']/g, '').replace(',', '.'))) : null,
  'number with commas between thousands': (text: string) =>
    WITH_THOUSANDS.test(text.trim()) ? finite(numberOf(text.replace(/,/g, ''))) : null,
  percentage: (text: string) => finite(numberOf(withPoint(text.replace(/\s*%$/, ''))) / 100),
  'number with a currency or unit': (text: string) =>
    finite(numberOf(withPoint(text.trim().replace(BEFORE, '$1').replace(AFTER, '')))),
} as const;

/** Signs before a number, after its own sign; and after it letters or signs without digits: `$1000`, `-€ 5`, `12 kg`, `5 m/s`. */
const BEFORE = /^([+-]?)\s*(?:\p{Sc}|[A-Z]{3}(?=[\s\d]))\s*/u;
const AFTER = /\s*(?:\p{Sc}|%|°?\p{L}[\p{L}/·²³.]*)$/u;

/** A decimal comma as a point; commas between thousands fall out. */
const withPoint = (text: string): string =>
  WITH_THOUSANDS.test(text) ? text.replace(/,/g, '') : text.replace(/^([+-]?\d+),(\d+)$/, '$1.$2');

const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

const AS = [
  ...Object.keys(READERS).map((value) => ({ value, text: value })),
  { value: 'category', text: 'category' },
  { value: 'text', text: 'free text' },
  { value: 'boolean', text: 'true and false' },
  { value: 'date', text: 'date, day before month' },
  { value: 'date, month before day', text: 'date, month before day' },
  { value: 'date, seconds', text: 'date, from seconds since 1970' },
  { value: 'date, milliseconds', text: 'date, from milliseconds since 1970' },
];
/** Those that read years. */
const HAS_YEARS = ['date', 'date, month before day'];

export const convert = stepKind({
  key: 'convert',
  title: 'Convert to another type',
  about:
    'Reads the texts of columns as another type. Dates are read in the usual forms, several in one column too: year first, day first or month first as it is chosen, names of months in English, with times, am and pm, fractions of seconds and offsets, two-digit years by the year from which they are of the 1900s, or as seconds or milliseconds since 1970. A number may have a currency sign before it or after it, or a unit. True are true, yes, y and 1, false are false, no, n and 0, in any case.',
  parameters: {
    columns: { type: 'columns', label: 'the columns to convert' },
    as: { type: 'choice', label: 'the type', choices: AS },
    pivot: {
      type: 'number',
      label: 'the first two-digit year of the 1900s',
      min: 0,
      max: 100,
      step: 1,
      start: USUAL_PIVOT,
      optional: true,
    },
    otherwise: {
      type: 'choice',
      label: 'what becomes of cells that do not convert',
      choices: [
        { value: 'refuse', text: 'stop this step' },
        { value: 'missing', text: 'become missing' },
      ],
    },
  },
  sentence: ({ as }) =>
    `Read {columns} as {as}${HAS_YEARS.includes(as) ? ', two-digit years from {pivot} on as of the 1900s' : ''}; cells that are none {otherwise}.`,
  learns: never,
  // Steps of earlier versions have no pivot.
  apply: (table, { columns, as, otherwise, pivot = USUAL_PIVOT }) => {
    const remarks: string[] = [];
    const converted = chosen(table, columns).map((column) => {
      const next = convertColumn(column, as, pivot);
      const lost = firstLost(column, next);
      if (lost && otherwise === 'refuse')
        throw new SieveError(
          'step',
          `${counted(lost.count, 'cell')} of ${column.name} ${lost.count === 1 ? 'is' : 'are'} none, the first “${lost.text}” in row ${lost.row + 1}. Let such cells become missing, or change them first.`,
          { field: 'otherwise' },
        );
      if (lost)
        remarks.push(
          `${counted(lost.count, 'cell')} of ${column.name} became missing, the first “${lost.text}” in row ${lost.row + 1}.`,
        );
      return next;
    });
    return { table: withColumns(table, converted), remarks };
  },
});

function convertColumn(column: Column, as: string, pivot: number): Column {
  const { name } = column;
  const reader = Object.entries(READERS).find(([key]) => key === as)?.[1];
  if (reader) {
    if (column.kind === 'number' && as === 'number') return column;
    return { kind: 'number', name, values: numbersByText(column, (text) => reader(text) ?? NaN) };
  }
  if (as === 'boolean')
    return { ...recoded(column, (text) => TRUTH[text.trim().toLowerCase()] ?? null), kind: 'boolean' };
  if (as === 'category' || as === 'text') {
    const { labels, codes } = labelsOf(column);
    return codedColumn(name, labels, codes, as);
  }
  if (column.kind === 'time') return column;
  const values = numbersByText(column, readerOfDates(as, pivot));
  const DAY = 86_400_000;
  const hasTimes = values.some((value) => !Number.isNaN(value) && value % DAY !== 0);
  const format = { separator: hasTimes ? ('T' as const) : null, seconds: hasTimes, zulu: false };
  return { kind: 'time', name, values, format };
}

function readerOfDates(as: string, pivot: number): (text: string) => number {
  if (as === 'date, seconds') return sinceEpoch('seconds');
  if (as === 'date, milliseconds') return sinceEpoch('milliseconds');
  return dateReader(as === 'date' ? 'day' : 'month', pivot);
}

/** The first cell that was present and is missing now, and how many are. */
function firstLost(before: Column, after: Column) {
  const rows = 'codes' in before ? before.codes.length : before.values.length;
  let first = -1;
  let count = 0;
  for (let row = 0; row < rows; row++) {
    const was = 'codes' in before ? (before.codes[row] ?? -1) >= 0 : !Number.isNaN(before.values[row]);
    const is = 'codes' in after ? (after.codes[row] ?? -1) >= 0 : !Number.isNaN(after.values[row]);
    if (!was || is) continue;
    if (first < 0) first = row;
    count++;
  }
  return count === 0 ? null : { row: first, count, text: cellText(before, first) ?? '' };
}
