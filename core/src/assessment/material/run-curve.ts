import type { SettingSummary } from '../../evaluation/trials/setting-summary.js';

/** A curve of a run: settings from simple to complex, with the mean over the folds. */
export interface RunCurve {
  readonly metric: string;
  /** The family of its models; left out in keys of earlier versions. */
  readonly family?: string;
  readonly points: readonly {
    readonly setting: string;
    readonly mean: number | null;
    readonly se: number | null;
    /** Mean on the rows that were trained on; left out in keys of earlier versions. */
    readonly training?: number | null;
  }[];
}

/**
 * The curve of a run by a metric. Where settings differ in more than one value, as in a grid or a search, no value has a
 * figure of its own: such a run has no points.
 */
export function runCurveOf(
  metric: string,
  family: string,
  settings: readonly Pick<SettingSummary, 'values' | 'metrics'>[],
): RunCurve {
  const alone = settings.every(({ values }) => Object.keys(values).length === 1) ? settings : [];
  return {
    metric,
    family,
    points: alone.map(({ values, metrics }) => ({
      setting: String(Object.values(values)[0] ?? ''),
      mean: metrics[metric]?.mean ?? null,
      se: metrics[metric]?.se ?? null,
      training: metrics[metric]?.train ?? null,
    })),
  };
}
