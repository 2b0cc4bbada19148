import type { Judged } from '../../metrics/judged.js';
import type { Metric } from '../../metrics/metric.js';

/** Figures of probabilities that grow without bound, or steadily, with a single row. */
const OF_PROBABILITIES = new Set(['log_loss', 'brier', 'calibration_error']);
/** Probabilities beyond which a row counts no more in a figure that is shown while an exercise is open. */
const BOUNDS = [0.05, 0.95] as const;

/**
 * Whether the answer of a single row can be read off a metric by changing what is predicted for it alone: errors of
 * numbers, and figures of probabilities.
 */
export const readsRows = ({ key, needs }: Pick<Metric, 'key' | 'needs'>): boolean =>
  needs === 'numbers' || OF_PROBABILITIES.has(key);

/** Predictions of which no single row reveals much: probabilities are bounded. Numbers are as they are. */
export function bounded(judged: Judged): Judged {
  if (judged.kind === 'numbers' || !judged.data.probabilities) return judged;
  const [low, high] = BOUNDS;
  const probabilities = judged.data.probabilities.map((of) =>
    of.map((value) => Math.min(high, Math.max(low, value))),
  );
  return { kind: 'labels', data: { ...judged.data, probabilities } };
}

/** How much of a sum over rows a single one can be, of bounded probabilities; 0 where that has no bound. */
export function mostOfRow({ key, range }: Pick<Metric, 'key' | 'range'>): number {
  if (key === 'log_loss') return Math.log(BOUNDS[1] / BOUNDS[0]);
  return range[0] !== null && range[1] !== null ? range[1] - range[0] : 0;
}
