import { wilson } from '../metrics/wilson.js';
import { at, sum } from '../numbers.js';
import { countCodes, type Labelled } from '../table/labels.js';
import type { Roles } from '../table/roles.js';
import { columnNamed, type Table } from '../table/table.js';
import { PART_NAMES, type PartCode, type PartName } from './plan.js';
import { rowsOfPart } from './split.js';

/** Number of rows of one class in a part, its share there and the share's 95 % interval (Wilson). */
export interface ClassShare {
  readonly label: string;
  readonly rows: number;
  readonly share: number;
  readonly low: number;
  readonly high: number;
}

export interface PartSummary {
  readonly name: PartName;
  readonly rows: number;
  /** By label in label order; for a numeric target, by its fifths. */
  readonly classes: readonly ClassShare[];
  /** Mean of a numeric target; null for classes. */
  readonly targetMean: number | null;
}

/**
 * Sizes and class shares of the parts that have rows.
 *
 * @param strata the target's labels, or the fifths of a numeric one
 */
export function summariseParts(
  table: Table,
  roles: Roles,
  strata: Labelled,
  parts: Int8Array,
): PartSummary[] {
  const target = columnNamed(table, roles.target);
  const present = PART_NAMES.map((name, part) => ({
    name,
    rows: rowsOfPart(parts, part as PartCode),
  })).filter((part) => part.rows.length > 0);
  return present.map(({ name, rows }): PartSummary => {
    const counts = countCodes(
      rows.map((row) => at(strata.codes, row)),
      strata.labels.length,
    );
    return {
      name,
      rows: rows.length,
      classes: strata.labels.map((label, code) => {
        const n = at(counts, code);
        return { label, rows: n, share: n / rows.length, ...wilson(n, rows.length) };
      }),
      targetMean:
        target.kind === 'number' && roles.task === 'regression'
          ? sum(Float64Array.from(rows, (row) => at(target.values, row))) / rows.length
          : null,
    };
  });
}
