import { SieveError } from '../errors.js';
import type { Task } from '../table/roles.js';
import { accuracy } from './accuracy.js';
import { averagePrecision } from './average-precision.js';
import { averages } from './averages.js';
import { balancedAccuracy } from './balanced-accuracy.js';
import { brier } from './brier.js';
import { errorRate } from './error-rate.js';
import { explainedVariance } from './explained-variance.js';
import { f1 } from './f1.js';
import { falseNegativeRate } from './fnr.js';
import { falsePositiveRate } from './fpr.js';
import { jaccard } from './jaccard.js';
import { kappa } from './kappa.js';
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
import { precision } from './precision.js';
import { r2 } from './r2.js';
import { recall } from './recall.js';
import { rmse } from './rmse.js';
import { rocAuc } from './roc-auc.js';
import { rocAucOneVsRest } from './roc-auc-one-vs-rest.js';
import { specificity } from './specificity.js';

/** Every metric. Server, interface and documentation are driven by this list; its order is the order of display. */
export const METRICS: readonly Metric[] = [
  rocAuc,
  rocAucOneVsRest,
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
  jaccard,
  ...averages,
  kappa,
  mcc,
  averagePrecision,
  logLoss,
  brier,
  rmse,
  mae,
  medianAe,
  mse,
  mape,
  r2,
  explainedVariance,
  maxError,
  meanError,
];

export const metricsFor = (task: Task): Metric[] => METRICS.filter((metric) => metric.tasks.includes(task));

/** @throws SieveError `no-such-metric` */
export function metricNamed(key: string): Metric {
  const metric = METRICS.find((m) => m.key === key);
  if (!metric) throw new SieveError('no-such-metric', `There is no metric “${key}”.`, { field: 'metric' });
  return metric;
}
