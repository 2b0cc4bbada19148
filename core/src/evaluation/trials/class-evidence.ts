import type { Check } from '../../foundation/check.js';
import { calibrationTable, type CalibrationRun } from '../../metrics/curves/calibration.js';
import { calibrationSays } from '../../metrics/curves/calibration-says.js';
import { confusionCounts } from '../../metrics/confusion.js';
import { rocCurve, thresholdTable, type CurvePoint, type ThresholdRow } from '../../metrics/curves/curves.js';
import type { LabelData } from '../../metrics/metric.js';
import { thinned } from './thinned.js';

const MOST_STEPS = 200;
/** Thresholds whose counts are listed. */
const MOST_THRESHOLDS = 2000;

/** What predictions of classes say. */
export interface ClassEvidence {
  readonly labels: readonly string[];
  readonly positive: number | null;
  /** Truth in rows. */
  readonly confusion: readonly (readonly number[])[];
  /** Of two classes; else none. */
  readonly roc: readonly Pick<CurvePoint, 'x' | 'y'>[];
  readonly thresholds: readonly ThresholdRow[];
  /** How many thresholds there are; where there are more than are listed, evenly spaced ones are. */
  readonly allThresholds: number;
  readonly calibration: readonly CalibrationRun[];
  /** Whether the probabilities agree with what came true; null of other than two classes. */
  readonly calibrated: Check | null;
}

/**
 * Where predictions of classes err; of two classes with probabilities also by threshold.
 *
 * @param groups code of the group of each row, whose rows resemble one another; null for none
 */
export function classEvidence(data: LabelData, groups: Int32Array | null): ClassEvidence {
  const { labels, probabilities } = data;
  const positive = probabilities === null ? null : data.positive;
  const thresholds = positive === null ? [] : thresholdTable(data).slice(1);
  return {
    labels,
    positive,
    confusion: confusionCounts(data),
    roc: positive === null ? [] : thinned(rocCurve(data), MOST_STEPS).map(({ x, y }) => ({ x, y })),
    thresholds: thinned(thresholds, MOST_THRESHOLDS),
    allThresholds: thresholds.length,
    calibration: positive === null ? [] : calibrationTable(data),
    calibrated: positive === null ? null : calibrationSays(data, groups),
  };
}
