import { firstAlike } from '../table/same-rows.js';
import { at } from '../numbers.js';
import { givenRows } from '../exercise/held-out.js';
import { strataOf } from '../split/strata.js';
import { labelsOf } from '../table/labels.js';
import { featuresOf } from '../table/roles.js';
import { columnNamed, isCoded, selectRows } from '../table/table.js';
import type { Material } from './kind.js';
import type { RowsKey } from './rules.js';

/** Columns by which an assignment of the training rows is judged; empty for none. */
interface JudgedBy {
  readonly stratify: string;
  readonly group: string;
  readonly time: string;
}

/** What judges an assignment of the training rows: their strata, groups, times and twins. */
export function rowsKeyOf(material: Material, { stratify, group, time }: JudgedBy): RowsKey {
  const { table, roles } = material;
  const { rows } = givenRows(material);
  const coded = (name: string, of: typeof labelsOf) => {
    if (name === '') return null;
    const { labels, codes } = of(columnNamed(table, name));
    return { column: name, labels, codes: rows.map((row) => at(codes, row)) };
  };
  const timeColumn = time === '' ? null : columnNamed(table, time);
  const features = featuresOf(table, roles).map(({ name }) => name);
  return {
    strata: coded(stratify, strataOf),
    groups: coded(group, labelsOf),
    time:
      timeColumn === null || isCoded(timeColumn)
        ? null
        : { column: time, values: Float64Array.from(rows, (row) => at(timeColumn.values, row)) },
    twins: firstAlike(selectRows(table, rows, features).columns, rows.length),
    truth: null,
    references: [],
  };
}
