import type { Random } from '@modest-sieve/core/foundation';

/** Standard normal deviate (Box and Muller, 1958). */
export function normal(random: Random): number {
  return Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());
}

export const pick = <T>(items: readonly T[], random: Random): T => {
  const item = items[random.below(items.length)];
  if (item === undefined) throw new RangeError('nothing to pick from');
  return item;
};

export const clamp = (value: number, low: number, high: number): number =>
  Math.min(high, Math.max(low, value));

export const APIARIES = [
  'Alder', 'Birch', 'Cobb', 'Dell', 'Eyot', 'Fern', 'Gorse', 'Holt', 'Ivy', 'Juno', 'Knoll', 'Larch',
  'Moor', 'Nook', 'Orme', 'Pond', 'Quay', 'Reed', 'Slad', 'Thorn', 'Usk', 'Vale', 'Weir', 'Yew',
] as const; // prettier-ignore

export const HIVES = ['long', 'stacked', 'skep', 'log', 'trough'] as const;
