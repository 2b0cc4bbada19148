import { normalHalfWidth } from './distributions.js';

/**
 * Wilson's interval for a proportion (Wilson, JASA 22, 1927; R's prop.test with correct = FALSE).
 *
 * @param of at least 1
 */
export function wilson(hits: number, of: number, level = 0.95): { low: number; high: number } {
  const z = normalHalfWidth(level);
  const p = hits / of;
  const z2 = (z * z) / of;
  const middle = p + z2 / 2;
  const half = z * Math.sqrt((p * (1 - p) + z2 / 4) / of);
  return { low: Math.max(0, (middle - half) / (1 + z2)), high: Math.min(1, (middle + half) / (1 + z2)) };
}
