import { metricNamed, type Figure, type Interval } from '@modest-sieve/core/metrics';

/** A figure to three decimals, larger ones to three significant digits beyond the point as they need. */
export function figureText(value: number | null | undefined): string {
  if (value === null || value === undefined) return '–';
  const size = Math.abs(value);
  return size !== 0 && size < 0.001
    ? value.toExponential(2)
    : value.toFixed(size >= 100 ? 1 : size >= 10 ? 2 : 3);
}

/** A difference of figures, to as many decimals as a figure of that size is shown with: −0.000 is 0.000. */
export function differenceText(value: number | null | undefined, size: number): string {
  if (value === null || value === undefined) return '–';
  const of = Math.abs(size);
  if (of !== 0 && of < 0.001) return figureText(value);
  const text = Math.abs(value).toFixed(of >= 100 ? 1 : of >= 10 ? 2 : 3);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
}

/** A value of the data itself to four significant digits, without idle zeros. */
export const valueText = (value: number | null): string =>
  value === null ? '–' : String(Number(value.toPrecision(4)));

export const scoreText = (figure: Figure): string =>
  figure.value === null ? `undefined: ${figure.reason}` : figureText(figure.value);

export const intervalText = (interval: Interval): string =>
  interval.low === null
    ? `could not be judged: ${interval.reason}`
    : `${figureText(interval.low)} to ${figureText(interval.high)} (95 %, ${interval.method})`;

export const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;

/** A metric's name at the beginning of a line. */
export function metricTitle(key: string): string {
  const { name } = metricNamed(key);
  return name.charAt(0).toUpperCase() + name.slice(1);
}

/** "20 Nov, 18:00". */
export function momentText(iso: string, timeZone: string): string {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(new Date(iso));
  const of = (type: Intl.DateTimeFormatPartTypes) => parts.find((part) => part.type === type)?.value ?? '';
  return `${of('day')} ${of('month')}, ${of('hour')}:${of('minute')}`;
}

/** "in 2 days 3 hours", "5 minutes ago"; `now` is the server's clock. */
export function fromNow(iso: string, now: string): string {
  const minutes = Math.round((Date.parse(iso) - Date.parse(now)) / 60_000);
  const size = Math.abs(minutes);
  const of = (n: number, unit: string) => `${n} ${unit}${n === 1 ? '' : 's'}`;
  const parts =
    size >= 1440
      ? [of(Math.floor(size / 1440), 'day'), of(Math.floor((size % 1440) / 60), 'hour')]
      : size >= 60
        ? [of(Math.floor(size / 60), 'hour'), of(size % 60, 'minute')]
        : [of(size, 'minute')];
  const span = parts.filter((part) => !part.startsWith('0 ')).join(' ') || 'less than a minute';
  return minutes < 0 ? `${span} ago` : `in ${span}`;
}

export const sizeText = (bytes: number): string =>
  bytes < 1024 * 1024
    ? `${Math.max(1, Math.round(bytes / 1024))} kB`
    : `${(bytes / 1024 / 1024).toFixed(1)} MB`;

const ORDINALS = [
  'first',
  'second',
  'third',
  'fourth',
  'fifth',
  'sixth',
  'seventh',
  'eighth',
  'ninth',
  'tenth',
];
/** "second", "11th". */
export const ordinal = (n: number): string =>
  ORDINALS[n - 1] ??
  `${n}${['th', 'st', 'nd', 'rd'][n % 10 > 3 || Math.floor((n % 100) / 10) === 1 ? 0 : n % 10]}`;

/** A p-value to four decimals. */
export const pText = (p: number | null): string =>
  p === null ? '–' : p < 0.0001 ? '< 0.0001' : p.toFixed(4);
