import type { Figure, Metric } from '../../metrics/metric.js';
import { metricNamed } from '../../metrics/registry.js';
import type { Task } from '../../data/table/roles.js';

/** The metrics of a trial: few enough that a curve stays quick, and such that they may disagree. */
const OF_TASK: Readonly<Record<Task, readonly string[]>> = {
  binary: ['roc_auc', 'accuracy', 'balanced_accuracy', 'f1', 'log_loss', 'brier'],
  multiclass: ['accuracy', 'balanced_accuracy', 'macro_f1', 'roc_auc_one_vs_rest', 'log_loss'],
  regression: ['rmse', 'mae', 'r2', 'mse'],
};

export const trialMetrics = (task: Task): Metric[] => OF_TASK[task].map(metricNamed);

export type Figures = Readonly<Record<string, Figure>>;
