import { SieveError } from '../foundation/errors.js';
import type { Task } from '../data/table/roles.js';
import { accuracy } from './definitions/labels/accuracy.js';
import { averagePrecision } from './definitions/probabilities/average-precision.js';
import { adjustedR2 } from './definitions/numbers/adjusted-r2.js';
import { averages } from './definitions/labels/averages.js';
import { balancedAccuracy } from './definitions/labels/balanced-accuracy.js';
import { brier } from './definitions/probabilities/brier.js';
import { calibrationError } from './definitions/probabilities/calibration-error.js';
import { pearsonCorrelation, spearmanCorrelation } from './definitions/numbers/correlation.js';
import { errorRate } from './definitions/labels/error-rate.js';
import { explainedVariance } from './definitions/numbers/explained-variance.js';
import { f1, f2, fHalf } from './definitions/labels/f-beta.js';
import { falseNegativeRate } from './definitions/labels/fnr.js';
import { falsePositiveRate } from './definitions/labels/fpr.js';
import { jaccard } from './definitions/labels/jaccard.js';
import { kappa, linearKappa, quadraticKappa } from './definitions/labels/kappa.js';
import { logLoss } from './definitions/probabilities/log-loss.js';
import { mae } from './definitions/numbers/mae.js';
import { mape } from './definitions/numbers/mape.js';
import { maxError } from './definitions/numbers/max-error.js';
import { mcc } from './definitions/labels/mcc.js';
import { meanError } from './definitions/numbers/mean-error.js';
import { medianAe } from './definitions/numbers/median-ae.js';
import type { Metric } from './metric.js';
import { mse } from './definitions/numbers/mse.js';
import { negativePredictiveValue } from './definitions/labels/npv.js';
import { pinballs } from './definitions/numbers/pinball.js';
import { precision } from './definitions/labels/precision.js';
import { r2 } from './definitions/numbers/r2.js';
import { recall } from './definitions/labels/recall.js';
import { rmse } from './definitions/numbers/rmse.js';
import { rmsle } from './definitions/numbers/rmsle.js';
import { rocAuc } from './definitions/probabilities/roc-auc.js';
import { rocAucOneVsOne } from './definitions/probabilities/roc-auc-one-vs-one.js';
import { rocAucOneVsRest } from './definitions/probabilities/roc-auc-one-vs-rest.js';
import { smape } from './definitions/numbers/smape.js';
import { specificity } from './definitions/labels/specificity.js';

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
