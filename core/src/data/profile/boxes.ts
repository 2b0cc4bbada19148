import { at, quantile } from '../../foundation/numbers.js';
import { countCodes, type Labelled } from '../table/labels.js';

/** Numbers by category: quartiles, and whiskers to the last value within one and a half times their distance (Tukey, 1977). */
export interface Boxes {
  readonly kind: 'boxes';
  readonly category: string;
  readonly number: string;
  readonly boxes: readonly {
    readonly label: string;
    readonly rows: number;
    readonly low: number;
    readonly q1: number;
    readonly median: number;
    readonly q3: number;
    readonly high: number;
    /** Rows beyond the whiskers. */
    readonly beyond: number;
  }[];
  /** Categories that are left out. */
  readonly more: number;
}

const MOST_BOXES = 24;

/** The codes of the most frequent labels, in label order. */
export function mostFrequent({ labels, codes }: Labelled, rows: Int32Array, most: number): number[] {
  const counts = countCodes(
    rows.map((row) => at(codes, row)),
    labels.length,
  );
  return labels
    .map((_, code) => code)
    .filter((code) => at(counts, code) > 0)
    .sort((a, b) => at(counts, b) - at(counts, a) || a - b)
    .slice(0, most)
    .sort((a, b) => a - b);
}

/**
 * Boxes of numbers by category.
 *
 * @param rows those that have both
 */
export function boxesOf(
  labelled: Labelled & { readonly name: string },
  { name, values }: { readonly name: string; readonly values: Float64Array },
  rows: Int32Array,
): Boxes {
  const shown = mostFrequent(labelled, rows, MOST_BOXES);
  const present = new Set(rows.map((row) => at(labelled.codes, row))).size;
  const boxes = shown.map((code) => {
    const own = Float64Array.from(
      rows.filter((row) => at(labelled.codes, row) === code),
      (row) => at(values, row),
    ).sort();
    const [q1, median, q3] = [quantile(own, 0.25), quantile(own, 0.5), quantile(own, 0.75)];
    const reach = 1.5 * (q3 - q1);
    const inside = own.filter((value) => value >= q1 - reach && value <= q3 + reach);
    return {
      label: at(labelled.labels, code),
      rows: own.length,
      low: at(inside, 0),
      q1,
      median,
      q3,
      high: at(inside, inside.length - 1),
      beyond: own.length - inside.length,
    };
  });
  return { kind: 'boxes', category: labelled.name, number: name, boxes, more: present - shown.length };
}
