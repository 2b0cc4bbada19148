import { correctedResampledT, type ResampledT } from '../comparison/over-folds.js';
import { studentHalfWidth } from '../../foundation/statistics/distributions.js';
import type { Metric } from '../../metrics/metric.js';
import type { SettingSummary } from './setting-summary.js';

/**
 * How much better one row of figures over folds is than another, with its test (Nadeau and Bengio, Machine Learning 52,
 * 2003); null where a figure is missing or the differences do not vary.
 *
 * @param first figures in each fold of each repeat
 * @param folds in one repeat
 */
export function gainOver(
  metric: Metric,
  first: readonly (number | null)[],
  second: readonly (number | null)[],
  folds: number,
): ResampledT | null {
  const known = (values: readonly (number | null)[]) =>
    values.flatMap((value) => (value === null ? [] : [value]));
  const [a, b] = [known(first), known(second)];
  if (a.length !== first.length || b.length !== second.length || a.length !== b.length || folds < 2)
    return null;
  const sign = metric.better === 'higher' ? 1 : -1;
  const found = correctedResampledT(
    a.map((value) => sign * value),
    b.map((value) => sign * value),
    1 / (folds - 1),
  );
  return 'p' in found ? found : null;
}

/** Figures of a metric in each fold; none where it was not measured. */
export const foldsOf = (setting: SettingSummary | undefined, { key }: Metric): readonly (number | null)[] =>
  setting?.metrics[key]?.folds ?? [];

/** Whether a gain is above 0 beyond chance: at most 2.5 % false alarms, shared among so many questions. */
export const isGain = (test: ResampledT | null, questions = 1): boolean =>
  test !== null && test.difference > 0 && test.p / 2 < 0.025 / Math.max(1, questions);

/** Upper end of the gain at 95 %. */
export const mostGain = ({ difference, se, df }: ResampledT): number =>
  difference + studentHalfWidth(0.95, df) * se;
