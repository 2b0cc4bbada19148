// Metrics, their intervals, curves and figures by class or subgroup.
export { byClass } from './by-class.js';
export { confusionCounts } from './confusion.js';
export { calibrationTable } from './curves/calibration.js';
export {
  bestThreshold,
  cheapestThreshold,
  gainCurve,
  precisionRecallCurve,
  rocCurve,
  thresholdTable,
  type ThresholdRow,
} from './curves/curves.js';
export { intervalOf, type Interval } from './intervals/interval.js';
export { figureOf, type Judged } from './judged.js';
export type { Figure, LabelData, Metric } from './metric.js';
export { metricNamed, METRICS, metricsFor } from './registry.js';
export { bySubgroup } from './subgroups.js';
