import type { Figure, Metric } from '../../metrics/metric.js';
import { metricsFor } from '../../metrics/registry.js';
import type { Task } from '../../data/table/roles.js';

/** The metrics that a run is usually judged by, the first one to begin with: such that they may disagree. */
const USUAL: Readonly<Record<Task, readonly string[]>> = {
  binary: ['roc_auc', 'accuracy', 'balanced_accuracy', 'f1', 'log_loss', 'brier'],
  multiclass: ['accuracy', 'balanced_accuracy', 'macro_f1', 'roc_auc_one_vs_rest', 'log_loss'],
  regression: ['rmse', 'mae', 'r2', 'mse'],
};

/** Settings of which every metric is measured; of more only the usual ones, so that a long curve stays quick. */
const MOST_FULL = 60;

/** Every metric of a task that predictions alone give, the usual ones first. */
export function trialMetrics(task: Task): Metric[] {
  const all = metricsFor(task);
  const usual = USUAL[task].flatMap((key) => all.filter((metric) => metric.key === key));
  return [...usual, ...all.filter((metric) => !usual.includes(metric))];
}

/** The metrics by which a setting can be chosen: those that say how good it is, not in which direction it errs. */
export const choosingMetrics = (task: Task): Metric[] =>
  trialMetrics(task).filter(({ key }) => key !== 'mean_error');

/**
 * The metrics that are measured of every setting of a run.
 *
 * @param settings how many there are
 * @param chosenBy the metric by which one is chosen
 */
export const measuredMetrics = (task: Task, settings: number, chosenBy: string): Metric[] =>
  settings <= MOST_FULL ? trialMetrics(task) : usualMetrics(task, chosenBy);

/** The usual metrics, and the one by which a setting is chosen. */
export const usualMetrics = (task: Task, chosenBy: string): Metric[] =>
  trialMetrics(task).filter(({ key }) => USUAL[task].includes(key) || key === chosenBy);

export type Figures = Readonly<Record<string, Figure>>;
