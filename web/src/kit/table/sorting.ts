/** What a table is sorted by: the key of a column, and whether the smallest or the largest comes first. */
export interface Sorting {
  readonly key: string;
  readonly largestFirst: boolean;
}

type SortValue = number | string | null;

/** A sorting as an address has it: `marks`, or `-marks` for the largest first. */
export const sortingText = ({ key, largestFirst }: Sorting): string => `${largestFirst ? '-' : ''}${key}`;

/** @returns null for none, and for a column that there is not */
export function sortingFrom(text: string | null, keys: readonly string[]): Sorting | null {
  if (text === null) return null;
  const largestFirst = text.startsWith('-');
  const key = largestFirst ? text.slice(1) : text;
  return keys.includes(key) ? { key, largestFirst } : null;
}

/** The next sorting when a heading is pressed: smallest first, then largest first, then as the rows come. */
export function nextSorting(now: Sorting | null, key: string): Sorting | null {
  if (now?.key !== key) return { key, largestFirst: false };
  return now.largestFirst ? null : { key, largestFirst: true };
}

/** Rows in the order of a value; rows without one come last, and equal ones stay as they came. */
export function sortedRows<R>(
  rows: readonly R[],
  valueOf: (row: R) => SortValue,
  largestFirst: boolean,
): readonly R[] {
  const way = largestFirst ? -1 : 1;
  const compare = (a: SortValue, b: SortValue): number => {
    if (a === null || b === null) return Number(a === null) - Number(b === null);
    if (typeof a === 'number' && typeof b === 'number') return way * (a - b);
    return way * String(a).localeCompare(String(b), 'en', { numeric: true });
  };
  return [...rows].sort((a, b) => compare(valueOf(a), valueOf(b)));
}
