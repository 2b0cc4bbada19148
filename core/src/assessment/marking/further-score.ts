import type { FurtherKey } from '../files/judge.js';
import type { Interval } from '../../metrics/intervals/interval.js';
import type { MarkScheme } from './scheme.js';

/** A further figure of one answer. */
export interface FurtherScore {
  readonly title: string;
  readonly metric: string;
  readonly how: FurtherKey['how'];
  /** Final rows that it is of. */
  readonly rows: number;
  /** Null where it is undefined, or where that of a subgroup is. */
  readonly score: number | null;
  readonly interval: Interval;
  /** The line that gave the marks. */
  readonly line: MarkScheme;
  readonly marks: number;
  /** For staff: the figure of each subgroup; none where it is of one set of rows. */
  readonly groups: readonly {
    readonly label: string;
    readonly rows: number;
    readonly score: number | null;
  }[];
}
