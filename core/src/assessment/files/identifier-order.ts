import { indices } from '../../foundation/numbers.js';

/** Of lists that were asked for before: a class hands in many files with the identifiers of one pack. */
const known = new WeakMap<readonly string[], Int32Array | null>();

/**
 * The places of identifiers in their own order, by number where all are numbers, else as texts; null where they are in it.
 *
 * @param identifiers a list that is never changed
 */
export function sortedPlaces(identifiers: readonly string[]): Int32Array | null {
  let places = known.get(identifiers);
  if (places === undefined) {
    places = findPlaces(identifiers);
    known.set(identifiers, places);
  }
  return places;
}

function findPlaces(identifiers: readonly string[]): Int32Array | null {
  const numbers = Float64Array.from(identifiers, (id) => (id.trim() === '' ? NaN : Number(id)));
  const isNumbers = numbers.every(Number.isFinite);
  const order = indices(identifiers.length).sort((a, b) => {
    if (isNumbers) return (numbers[a] ?? 0) - (numbers[b] ?? 0);
    const [one = '', other = ''] = [identifiers[a], identifiers[b]];
    return one < other ? -1 : Number(one > other);
  });
  return order.some((place, rank) => place !== rank) ? order : null;
}
