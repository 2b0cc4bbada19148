import { timeOf } from './cell.js';

/** How a date may be written, with the places of year, month and day among its three numbers. */
const ORDERS = {
  'day.month.year': [2, 1, 0],
  'day/month/year': [2, 1, 0],
  'month/day/year': [2, 0, 1],
} as const;

function inOrder(text: string, [year, month, day]: readonly [number, number, number]): number {
  const numbers = text.trim().split(/[./]/);
  const [y, m, d] = [numbers[year] ?? '', numbers[month] ?? '', numbers[day] ?? ''];
  if (numbers.length !== 3 || !/^\d{4}$/.test(y)) return NaN;
  return timeOf(`${y}-${m.padStart(2, '0')}-${d.padStart(2, '0')}`)?.value ?? NaN;
}

/** A date as year-month-day, day.month.year or day/month/year, in milliseconds; NaN for a text that is none. */
export function dateInAnyForm(text: string): number {
  const iso = timeOf(text.trim());
  if (iso) return iso.value;
  return text.includes('.')
    ? inOrder(text, ORDERS['day.month.year'])
    : inOrder(text, ORDERS['day/month/year']);
}

/** A date as month/day/year. */
export const dateMonthFirst = (text: string): number => inOrder(text, ORDERS['month/day/year']);
