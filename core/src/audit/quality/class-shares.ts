import { studentHalfWidth } from '../../foundation/statistics/distributions.js';
import { FEWEST_GROUPS } from '../../metrics/intervals/interval.js';
import { wilson } from '../../foundation/statistics/wilson.js';
import { at } from '../../foundation/numbers.js';
import { countCodes, type Labelled } from '../../data/table/labels.js';

/** Number of rows of one class in a part, its share there and the share's 95 % interval. */
export interface ClassShare {
  readonly label: string;
  readonly rows: number;
  readonly share: number;
  /** Null where the rows come in too few groups to judge by. */
  readonly low: number | null;
  readonly high: number | null;
}

/**
 * Shares of the classes among rows, in label order. The interval is Wilson's; where rows come in groups it is that of a ratio
 * over whole groups (Cochran, Sampling Techniques, 1977, 3.12), with Student's t, from ten groups on.
 *
 * @param groups the group of each row of the table; null where rows are independent
 */
export function classSharesOf(rows: Int32Array, strata: Labelled, groups: Labelled | null): ClassShare[] {
  const n = rows.length;
  const codes = rows.map((row) => at(strata.codes, row));
  const counts = countCodes(codes, strata.labels.length);
  const clusters = groups ? clustersOf(rows, groups) : null;
  return counts.map((hits, code) => ({
    label: at(strata.labels, code),
    rows: hits,
    share: n === 0 ? 0 : hits / n,
    ...(n === 0
      ? { low: 0, high: 1 }
      : clusters
        ? ratioInterval(clusters, codes, code, hits / n)
        : wilson(hits, n)),
  }));
}

interface Clusters {
  readonly of: Int32Array;
  readonly sizes: readonly number[];
}

/** Groups among the rows, numbered from 0; a row without one is a group of its own. */
function clustersOf(rows: Int32Array, { codes }: Labelled): Clusters {
  const numberOf = new Map<number, number>();
  const sizes: number[] = [];
  const of = rows.map((row) => {
    const code = at(codes, row);
    const known = code < 0 ? undefined : numberOf.get(code);
    const number = known ?? sizes.length;
    if (known === undefined && code >= 0) numberOf.set(code, number);
    sizes[number] = (sizes[number] ?? 0) + 1;
    return number;
  });
  return { of, sizes };
}

function ratioInterval({ of, sizes }: Clusters, codes: Int32Array, code: number, share: number) {
  const count = sizes.length;
  if (count < FEWEST_GROUPS) return { low: null, high: null };
  // Groups that are all alike have no spread: each counts as one row then.
  if (share === 0 || share === 1) return wilson(share * count, count);
  const hits = new Float64Array(count);
  of.forEach((group, i) => {
    if (codes[i] === code) hits[group] = at(hits, group) + 1;
  });
  const squares = hits.reduce((sum, value, group) => sum + (value - share * at(sizes, group)) ** 2, 0);
  const se = Math.sqrt((count / (count - 1)) * squares) / codes.length;
  const half = studentHalfWidth(0.95, count - 1) * se;
  return { low: Math.max(0, share - half), high: Math.min(1, share + half) };
}
