import { MOST_SETTINGS } from '@modest-sieve/core/evaluation';

/**
 * Values as they are typed: numbers apart by commas or spaces, and runs such as "1 to 20" or "0 to 1 by 0.1".
 *
 * @returns none for an empty text; a sentence that says what is wrong
 */
export function settingsIn(text: string): number[] | string {
  const values: number[] = [];
  const parts = text
    .split(/,\s*|;\s*/)
    .flatMap((part) => (/\bto\b/.test(part) ? [part] : part.trim().split(/\s+/)))
    .map((part) => part.trim())
    .filter((part) => part !== '');
  for (const part of parts) {
    const run = /^(\S+)\s+to\s+(\S+?)(?:\s+by\s+(\S+))?$/.exec(part);
    const numbers = (run ? [run[1], run[2], run[3] ?? '1'] : [part]).map(Number);
    if (numbers.some((number) => !Number.isFinite(number)))
      return `“${part}” is no number, and no run such as 1 to 20`;
    const [from = 0, to = from, by = 1] = numbers;
    if (!(by > 0) || to < from) return `“${part}” has no values`;
    const count = Math.floor((to - from) / by + 1e-9) + 1;
    if (values.length + count > MOST_SETTINGS) return `more than ${MOST_SETTINGS} values`;
    for (let i = 0; i < count; i++) values.push(Number((from + i * by).toPrecision(12)));
  }
  return [...new Set(values)];
}

/**
 * The range that a search draws from, as it is typed: "0.01 to 10", or values of which the least and the largest count.
 *
 * @returns none for an empty text; a sentence that says what is wrong
 */
export function rangeIn(text: string): number[] | string {
  const run = /^\s*(\S+)\s+to\s+(\S+)\s*$/.exec(text);
  if (!run) return settingsIn(text);
  const [low = NaN, high = NaN] = run.slice(1).map(Number);
  if (!Number.isFinite(low) || !Number.isFinite(high))
    return `“${text.trim()}” is no range such as 0.01 to 10`;
  return low < high ? [low, high] : `“${text.trim()}” has no values`;
}
