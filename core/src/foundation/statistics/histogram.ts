const BARS = 24;

/** Bars of equal width from the least value to the greatest; none where all values are equal. */
export function histogramOf(values: Float64Array, bars = BARS) {
  const low = values.reduce((a, b) => Math.min(a, b), Infinity);
  const high = values.reduce((a, b) => Math.max(a, b), -Infinity);
  if (!(high > low)) return [];
  const width = (high - low) / bars;
  const counts = new Array<number>(bars).fill(0);
  for (const value of values) {
    const bar = Math.min(bars - 1, Math.floor((value - low) / width));
    counts[bar] = (counts[bar] ?? 0) + 1;
  }
  return counts.map((rows, bar) => ({ from: low + bar * width, to: low + (bar + 1) * width, rows }));
}
