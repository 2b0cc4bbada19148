import { at } from '../../foundation/numbers.js';
import { rowsOfPart } from '../../splitting/parts/parts.js';
import { meanOf } from '../../data/profile/number-summary.js';
import type { Labelled } from '../../data/table/labels.js';
import { isCoded, type Column } from '../../data/table/table.js';
import { classSharesOf, type ClassShare } from './class-shares.js';

export interface PartRows {
  readonly rows: number;
  /** By label in label order; for a numeric target, by its fifths. Empty without a target. */
  readonly classes: readonly ClassShare[];
  /** Mean of a numeric target; null for classes. */
  readonly targetMean: number | null;
}

/**
 * Sizes and class shares of the parts that have rows, in the order of the parts.
 *
 * @param names of the parts, to which `parts` points
 * @param strata the target's labels, or the fifths of a numeric one; null without a target
 * @param target a numeric target, whose mean is wanted
 * @param groups rows that resemble one another; null for none
 */
export function summariseParts<N extends string>(
  names: readonly N[],
  parts: Int8Array,
  strata: Labelled | null,
  target: Column | null,
  groups: Labelled | null,
): (PartRows & { readonly name: N })[] {
  return names.flatMap((name, part) => {
    const rows = rowsOfPart(parts, part);
    if (rows.length === 0) return [];
    const classes = strata ? classSharesOf(rows, strata, groups) : [];
    const numbers =
      target && !isCoded(target) ? Float64Array.from(rows, (row) => at(target.values, row)) : null;
    const present = numbers?.filter((value) => !Number.isNaN(value));
    return [
      {
        name,
        rows: rows.length,
        classes,
        targetMean: present && present.length > 0 ? meanOf(present) : null,
      },
    ];
  });
}
