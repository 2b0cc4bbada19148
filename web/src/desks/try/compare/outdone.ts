import { metricNamed } from '@modest-sieve/core/metrics';
import equal from 'fast-deep-equal';
import type { Schemas } from '../../../api/client.js';

type Run = Pick<Schemas['TrialInfo'], 'id' | 'plan' | 'result' | 'foldSetId'>;

/**
 * A simpler run of the same family over the same folds that does as well on held-out rows, although this one is better
 * on training rows: only then is a gap a fault.
 */
export function outdoneBy<R extends Run>(run: R, runs: readonly R[], metric: string): R | null {
  const own = run.result?.chosen.metrics[metric];
  const size = run.result?.size?.count;
  const sign = metricNamed(metric).better === 'higher' ? 1 : -1;
  if (!own || own.mean === null || own.gap === null || own.gap <= 0 || size === undefined) return null;
  const mine = sign * own.mean;
  return (
    runs.find((other) => {
      const theirs = other.result?.chosen.metrics[metric];
      return (
        other.id !== run.id &&
        other.foldSetId === run.foldSetId &&
        other.plan.model.kind === run.plan.model.kind &&
        equal([...other.plan.features].sort(), [...run.plan.features].sort()) &&
        equal(other.plan.screening ?? null, run.plan.screening ?? null) &&
        (other.result?.size?.count ?? Infinity) < size &&
        theirs?.mean !== null &&
        theirs?.mean !== undefined &&
        sign * theirs.mean >= mine
      );
    }) ?? null
  );
}
