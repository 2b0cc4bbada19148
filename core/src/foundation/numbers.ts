/**
 * The element at an index that the caller has made sure of; an index outside is a defect of the program.
 *
 * Loops over millions of cells index typed arrays themselves (`values[i] ?? 0`): this function meets arrays of every
 * kind, which no engine makes fast.
 */
export function at<T>(items: ArrayLike<T>, index: number): T {
  const item = items[index];
  if (item === undefined) throw new RangeError(`index ${index} outside 0..${items.length - 1}`);
  return item;
}

/** The integers 0, 1, …, n − 1. */
export function indices(n: number): Int32Array {
  const out = new Int32Array(n);
  for (let i = 0; i < n; i++) out[i] = i;
  return out;
}

/**
 * Quantile of values in ascending order by linear interpolation (type 7 of Hyndman and Fan, 1996).
 *
 * @param sorted ascending, without NaN, at least one value
 * @param p between 0 and 1
 */
export function quantile(sorted: ArrayLike<number>, p: number): number {
  const position = (sorted.length - 1) * p;
  const below = Math.floor(position);
  const low = at(sorted, below);
  const high = at(sorted, Math.min(below + 1, sorted.length - 1));
  return low + (position - below) * (high - low);
}

/** A number to some significant digits, without idle zeros: "0.0213", "12". */
export const shortNumber = (value: number, digits = 3): string => String(Number(value.toPrecision(digits)));

/** "1,494": thousands apart by commas, as all counts are written for readers. */
export function count(n: number): string {
  return String(n).replace(/\B(?=(\d{3})+(?!\d))/g, ',');
}

/** "1 row", "1,494 rows". */
export function counted(n: number, one: string, many = `${one}s`): string {
  return `${count(n)} ${n === 1 ? one : many}`;
}

/** Different numbers to six significant digits, or as many as distinguish them. */
export function edgeTexts(edges: readonly number[]): string[] {
  for (let precision = 6; precision < 17; precision++) {
    const texts = edges.map((edge) => String(Number(edge.toPrecision(precision))));
    if (new Set(texts).size === edges.length) return texts;
  }
  return edges.map(String);
}
