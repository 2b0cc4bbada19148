import type { Metric } from '../../metrics/metric.js';
import type { MarkScheme } from './scheme.js';

/** The most of the way from nothing to most by which the benefit of the doubt moves a point. */
const MOST_OF_THE_WAY = 0.5;

/**
 * The line by which a score is marked. It begins where work is shown, and with the benefit of the doubt its upper points
 * are nearer by the same margin for everybody, so that marks never fall as the score rises.
 *
 * @param floor score up to which no work is shown; null for none
 * @param margin one standard error of a score on the final rows
 */
export function lineFor(
  scheme: MarkScheme,
  metric: Pick<Metric, 'better'>,
  floor: number | null,
  margin: number,
): MarkScheme {
  const way = metric.better === 'higher' ? 1 : -1;
  const capped = floor !== null && way * (floor - scheme.most) > 0 ? scheme.most : floor;
  const start = capped !== null && way * (capped - scheme.nothing) > 0 ? capped : scheme.nothing;
  const room = Math.abs(scheme.most - start) * MOST_OF_THE_WAY;
  const moved = scheme.doubt === true ? way * Math.min(margin, room) : 0;
  return { ...scheme, nothing: start, most: scheme.most - moved, all: scheme.all - moved };
}
