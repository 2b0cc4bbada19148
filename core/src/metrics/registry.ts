import { SieveError } from '../errors.js';
import type { Task } from '../table/roles.js';
import { accuracy } from './accuracy.js';
import { averagePrecision } from './average-precision.js';
import { adjustedR2 } from './adjusted-r2.js';
import { averages } from './averages.js';
import { balancedAccuracy } from './balanced-accuracy.js';
import { brier } from './brier.js';
import { calibrationError } from './calibration-error.js';
import { pearsonCorrelation, spearmanCorrelation } from './correlation.js';
import { errorRate } from './error-rate.js';
import { explainedVariance } from './explained-variance.js';
import { f1, f2, fHalf } from './f-beta.js';
import { falseNegativeRate } from './fnr.js';
import { falsePositiveRate } from './fpr.js';
import { jaccard } from './jaccard.js';
import { kappa, linearKappa, quadraticKappa } from './kappa.js';
import { logLoss } from './log-loss.js';
import { mae } from './mae.js';
import { mape } from './mape.js';
import { maxError } from './max-error.js';
import { mcc } from './mcc.js';
import { meanError } from './mean-error.js';
import { medianAe } from './median-ae.js';
import type { Metric } from './metric.js';
import { mse } from './mse.js';
import { negativePredictiveValue } from './npv.js';
import { pinballs } from './pinball.js';
import { precision } from './precision.js';
import { r2 } from './r2.js';
import { recall } from './recall.js';
import { rmse } from './rmse.js';
import { rmsle } from './rmsle.js';
import { rocAuc } from './roc-auc.js';
import { rocAucOneVsOne } from './roc-auc-one-vs-one.js';
import { rocAucOneVsRest } from './roc-auc-one-vs-rest.js';
import { smape } from './smape.js';
import { specificity } from './specificity.js';

/** Every metric. Server, interface and documentation are driven by this list; its order is the order of display. */
export const METRICS: readonly Metric[] = [
  rocAuc,
  rocAucOneVsRest,
  rocAucOneVsOne,
  accuracy,
  balancedAccuracy,
  errorRate,
  precision,
  recall,
  specificity,
  negativePredictiveValue,
  falsePositiveRate,
  falseNegativeRate,
  f1,
  f2,
  fHalf,
  jaccard,
  ...averages,
  kappa,
  linearKappa,
  quadraticKappa,
  mcc,
  averagePrecision,
  logLoss,
  brier,
  calibrationError,
  rmse,
  mae,
  medianAe,
  mse,
  mape,
  smape,
  rmsle,
  ...pinballs,
  r2,
  adjustedR2,
  explainedVariance,
  maxError,
  meanError,
  pearsonCorrelation,
  spearmanCorrelation,
];

/** The metrics of a task; without those that need the number of features, unless it is known. */
export const metricsFor = (task: Task, knowsFeatures = false): Metric[] =>
  METRICS.filter((metric) => metric.tasks.includes(task) && (knowsFeatures || !metric.needsFeatures));

/** @throws SieveError `no-such-metric` */
export function metricNamed(key: string): Metric {
  const metric = METRICS.find((m) => m.key === key);
  if (!metric) throw new SieveError('no-such-metric', `There is no metric “${key}”.`, { field: 'metric' });
  return metric;
}
