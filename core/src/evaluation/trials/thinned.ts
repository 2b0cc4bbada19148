import { at } from '../../foundation/numbers.js';

/** Every second, third … of many things, first and last included. */
export function thinned<T>(items: readonly T[], most: number): T[] {
  if (items.length <= most) return [...items];
  return Array.from({ length: most }, (_, i) => at(items, Math.round((i * (items.length - 1)) / (most - 1))));
}
