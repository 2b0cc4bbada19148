import type { ThresholdRow } from '@modest-sieve/core/metrics';

type Row = Pick<ThresholdRow, 'threshold' | 'tp' | 'fp' | 'fn' | 'tn'>;

/** The confusion when rows from a threshold on are called positive: that of the lowest score that is no lower. */
export function nearestThreshold(rows: readonly Row[], threshold: number): Row | null {
  const at = rows.filter((row) => row.threshold >= threshold).at(-1);
  const [first] = rows;
  if (at || !first) return at ?? null;
  // Above every score nothing is called positive.
  return { threshold, tp: 0, fp: 0, fn: first.tp + first.fn, tn: first.fp + first.tn };
}

/** The threshold at which missed rows and false alarms cost least; the highest of those that are equal. */
export function cheapest(
  rows: readonly Row[],
  costs: { readonly missed: number; readonly alarm: number },
): { threshold: number; cost: number } | null {
  let best: { threshold: number; cost: number } | null = null;
  for (const { threshold, fn, fp } of rows) {
    const cost = fn * costs.missed + fp * costs.alarm;
    if (!best || cost < best.cost) best = { threshold, cost };
  }
  return best;
}
