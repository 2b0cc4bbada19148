import { TRAINING_SHARE } from '@modest-sieve/core/evaluation';
import { metricNamed } from '@modest-sieve/core/metrics';
import type { Schemas } from '../../../api/client.js';

type Setting = Schemas['TrialDetail']['settings'][number];

/** A setting of a search with its figure. */
export interface Searched {
  readonly place: number;
  readonly values: Readonly<Record<string, number>>;
  readonly mean: number;
  readonly se: number | null;
  readonly train: number | null;
  /** Percent of the training rows that it was measured on. */
  readonly share: number;
}

/** The settings of a search that have a figure: those on all rows first, of these the best first. */
export function bestOfSearch(settings: readonly Setting[], key: string): Searched[] {
  const sign = metricNamed(key).better === 'higher' ? -1 : 1;
  return settings
    .flatMap(({ values, metrics }, place) => {
      const own = metrics[key];
      if (!own || own.mean === null) return [];
      const { mean, se, train } = own;
      return [{ place, values, mean, se, train, share: values[TRAINING_SHARE] ?? 100 }];
    })
    .sort((a, b) => b.share - a.share || sign * (a.mean - b.mean));
}
