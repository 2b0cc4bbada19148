import { firstAlike } from '../../../data/table/same-rows.js';
import { at } from '../../../foundation/numbers.js';
import { givenRows } from '../../material/held-out.js';
import { isBinned, strataOf } from '../../../splitting/algorithms/strata.js';
import { labelsOf } from '../../../data/table/labels.js';
import { featuresOf } from '../../../data/table/roles.js';
import { columnNamed, isCoded, selectRows } from '../../../data/table/table.js';
import { timeRanks, unitsOf, type AssignmentPlan } from './assignment-honest.js';
import { boundsOf } from './honest-rate.js';
import type { Material } from '../../material/material.js';
import type { RowsKey } from './key.js';

/** Columns by which an assignment of the training rows is judged; empty for none. */
interface JudgedBy {
  readonly stratify: string;
  readonly group: string;
  readonly time: string;
  /** Whether rows with the same features are to be in one part. */
  readonly together: boolean;
  /** Share of each part. */
  readonly shares: readonly number[];
  readonly isFolds: boolean;
}

/** What judges an assignment of the training rows: their strata, groups, times and twins; and what they are asked to keep. */
export function rowsKeyOf(
  material: Material,
  { stratify, group, time, together, shares, isFolds }: JudgedBy,
): { readonly key: RowsKey; readonly plan: AssignmentPlan } {
  const { table, roles } = material;
  const { rows } = givenRows(material);
  const coded = (name: string, of: typeof labelsOf) => {
    if (name === '') return null;
    const { labels, codes } = of(columnNamed(table, name));
    return { column: name, labels, codes: rows.map((row) => at(codes, row)) };
  };
  const numbersOf = (name: string) => {
    const column = name === '' ? null : columnNamed(table, name);
    return column === null || isCoded(column)
      ? null
      : Float64Array.from(rows, (row) => at(column.values, row));
  };
  const strata = coded(stratify, strataOf);
  const timeValues = numbersOf(time);
  const features = featuresOf(table, roles).map(({ name }) => name);
  const twins = firstAlike(selectRows(table, rows, features).columns, rows.length);
  const groups = coded(group, labelsOf);
  const plan: AssignmentPlan = {
    rows: rows.length,
    shares,
    isFolds,
    strata: strata && {
      ...strata,
      values: isBinned(columnNamed(table, stratify)) ? numbersOf(stratify) : null,
    },
    units: unitsOf(groups?.codes ?? null, together ? twins : null),
    time: timeValues && timeRanks(timeValues),
  };
  return {
    plan,
    key: {
      strata: plan.strata,
      groups,
      time: timeValues && { column: time, values: timeValues },
      twins,
      bounds: boundsOf(plan),
      truth: null,
      references: [],
    },
  };
}
