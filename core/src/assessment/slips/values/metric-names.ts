import { METRICS } from '../../../metrics/registry.js';

/** The metric of a name. */
export const metricCalled = (name: string) => METRICS.find((metric) => metric.name === name);
/** The name of the metric of a key. */
export const nameOf = (key: string): string => METRICS.find((metric) => metric.key === key)?.name ?? key;
/** The names of pairs of metrics. */
export const named = (pairs: readonly (readonly [string, string])[]) =>
  pairs.map(([asked, given]) => [nameOf(asked), nameOf(given)] as const);
