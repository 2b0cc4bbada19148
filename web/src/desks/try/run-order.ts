import { metricNamed } from '@modest-sieve/core/metrics';
import type { Schemas } from '../../api/client.js';

/** As they were run, the first above; or by the metric. */
export type RunOrder = 'run' | 'best';

type Run = Schemas['TrialInfo'];

/** Runs by their mean over the folds, the best first; those without one last, in the order in which they came. */
export function bestFirst(runs: readonly Run[], metric: string): readonly Run[] {
  const sign = metricNamed(metric).better === 'higher' ? 1 : -1;
  const worth = ({ result }: Run): number => {
    const mean = result?.chosen.metrics[metric]?.mean ?? null;
    return mean === null ? -Infinity : sign * mean;
  };
  return [...runs].sort((a, b) => (worth(a) === worth(b) ? 0 : worth(b) - worth(a)));
}
