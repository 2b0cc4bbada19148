import { at, indices } from '../../foundation/numbers.js';

/** The places of identifiers in their own order, by number where all are numbers, else as texts; null where they are in it. */
export function sortedPlaces(identifiers: readonly string[]): Int32Array | null {
  const isNumbers = identifiers.every((id) => id.trim() !== '' && Number.isFinite(Number(id)));
  const order = indices(identifiers.length).sort((a, b) => {
    const [one, other] = [at(identifiers, a), at(identifiers, b)];
    if (isNumbers) return Number(one) - Number(other);
    return one < other ? -1 : Number(one > other);
  });
  return order.some((place, rank) => place !== rank) ? order : null;
}
