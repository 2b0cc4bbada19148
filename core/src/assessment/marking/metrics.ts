import type { Metric } from '../../metrics/metric.js';
import { metricsFor } from '../../metrics/registry.js';
import type { Task } from '../../data/table/roles.js';

/** Metrics that can mark predictions: those that say how good, not in which direction. */
export const markingMetrics = (task: Task): Metric[] =>
  metricsFor(task).filter((metric) => metric.key !== 'mean_error');
