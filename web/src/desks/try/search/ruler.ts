import { shortNumber } from '@modest-sieve/core/foundation';

/** Where values lie along a ruler from 0 to 1, and the numbers that stand at it. */
export interface Ruler {
  readonly at: (value: number) => number;
  readonly marks: readonly { readonly at: number; readonly text: string }[];
}

/** From this ratio of largest to least on, a ruler is of orders of magnitude. */
const WIDE = 20;
/** Part of such a ruler at which a nought lies, before the least that is above it. */
const NOUGHT = 0.08;

/** A ruler of the given values: evenly by value, or by logarithm where they span much; a nought stands at its beginning. */
export function rulerOf(values: readonly number[]): Ruler {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const positive = values.filter((value) => value > 0);
  const least = Math.min(...positive);
  const mark = (value: number, at: (value: number) => number) => ({
    at: at(value),
    text: shortNumber(value),
  });
  if (!(high > low)) return { at: () => 0.5, marks: [{ at: 0.5, text: shortNumber(low) }] };
  if (low < 0 || high / least < WIDE || positive.length < 2) {
    const at = (value: number) => (value - low) / (high - low);
    return { at, marks: [mark(low, at), mark(high, at)] };
  }
  const begin = low === 0 ? NOUGHT : 0;
  const at = (value: number) =>
    value <= 0 ? 0 : begin + (1 - begin) * (Math.log(value / least) / Math.log(high / least));
  const between = tens(least, high);
  const ends = low === 0 ? [0, least, high] : [least, high];
  return { at, marks: [...ends, ...between].sort((a, b) => a - b).map((value) => mark(value, at)) };
}

/** Powers of ten well between two numbers, at most three. */
function tens(least: number, high: number): number[] {
  const span = Math.log10(high / least);
  const all: number[] = [];
  for (let power = Math.ceil(Math.log10(least)); power <= Math.log10(high); power++) {
    const place = (power - Math.log10(least)) / span;
    if (place > 0.15 && place < 0.85) all.push(Number((10 ** power).toPrecision(1)));
  }
  const step = Math.ceil(all.length / 3);
  return all.filter((_, i) => i % step === 0);
}
