import { at } from '../../foundation/numbers.js';
import { firstAlike } from '../../data/table/same-rows.js';
import type { Column } from '../../data/table/table.js';

/** Codes of the groups that have rows in more parts than one. */
export function crossingGroups(codes: Int32Array, parts: ArrayLike<number>): Set<number> {
  const partOf = new Map<number, number>();
  const crossing = new Set<number>();
  for (let row = 0; row < codes.length; row++) {
    const code = at(codes, row);
    const part = at(parts, row);
    if (code < 0 || part < 0) continue;
    const earlier = partOf.get(code);
    if (earlier === undefined) partOf.set(code, part);
    else if (earlier !== part) crossing.add(code);
  }
  return crossing;
}

/** Rows with the same features in more parts than one, and with the same features and different labels. */
export interface Twins {
  /** Rows that are like a row of another part, beyond those of the part that has most of them: what must move to bring them together. */
  readonly crossing: number;
  /** The first of them, and the earlier row. */
  readonly examples: readonly (readonly [number, number])[];
  /** Rows whose features are those of an earlier row with another label, in whatever part. */
  readonly contradicting: number;
}

const MOST_EXAMPLES = 5;

/**
 * @param features columns to compare
 * @param labels class codes; −1 is no label
 */
export function findTwins(
  features: readonly Column[],
  parts: ArrayLike<number>,
  labels: ArrayLike<number> | null,
): Twins {
  const first = firstAlike(features, parts.length, (row) => at(parts, row) >= 0);
  let crossing = 0;
  let contradicting = 0;
  const examples: (readonly [number, number])[] = [];
  const alike = new Map<number, Map<number, number>>();
  for (let row = 0; row < first.length; row++) {
    const other = at(first, row);
    if (other < 0 || other === row) continue;
    const counts = alike.get(other) ?? new Map<number, number>([[at(parts, other), 1]]);
    alike.set(other, counts);
    counts.set(at(parts, row), (counts.get(at(parts, row)) ?? 0) + 1);
    if (at(parts, other) !== at(parts, row) && examples.length < MOST_EXAMPLES) examples.push([other, row]);
    if (labels && at(labels, row) >= 0 && at(labels, other) >= 0 && at(labels, row) !== at(labels, other))
      contradicting++;
  }
  for (const counts of alike.values()) {
    const rows = [...counts.values()];
    crossing += rows.reduce((a, b) => a + b, 0) - Math.max(...rows);
  }
  return { crossing, examples, contradicting };
}
