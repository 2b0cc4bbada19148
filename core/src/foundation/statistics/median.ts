/**
 * Median of the values that are not NaN, between the two middle ones where they are even; NaN without any. Selects it by
 * partition around pivots (Hoare, Communications of the ACM 4, 1961, algorithm 65), which is quicker than sorting.
 */
export function medianOf(values: Float64Array): number {
  const present = new Float64Array(values.length);
  let count = 0;
  for (let i = 0; i < values.length; i++) {
    const value = values[i] ?? NaN;
    if (!Number.isNaN(value)) present[count++] = value;
  }
  if (count === 0) return NaN;
  const upper = select(present, count, count >> 1);
  if (count % 2 === 1) return upper;
  // All that lie before the selected place are no larger.
  let lower = -Infinity;
  for (let i = 0; i < count >> 1; i++) lower = Math.max(lower, present[i] ?? 0);
  return lower + (upper - lower) / 2;
}

/** Brings the value that belongs at a place there, smaller ones before it and larger ones after. */
function select(values: Float64Array, count: number, place: number): number {
  let [low, high] = [0, count - 1];
  while (low < high) {
    const pivot = values[(low + high) >> 1] ?? 0;
    let [i, j] = [low, high];
    while (i <= j) {
      while ((values[i] ?? 0) < pivot) i++;
      while ((values[j] ?? 0) > pivot) j--;
      if (i > j) break;
      const held = values[i] ?? 0;
      values[i++] = values[j] ?? 0;
      values[j--] = held;
    }
    if (place <= j) high = j;
    else if (place >= i) low = i;
    else break;
  }
  return values[place] ?? NaN;
}
