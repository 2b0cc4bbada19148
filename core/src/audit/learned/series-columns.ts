import { at } from '../../foundation/numbers.js';
import type { NumberColumn } from '../../data/table/table.js';

/** Rows ahead that are looked at, one by one. */
const LEADS = 30;
/** Rows behind. */
const LAGS = 3;
/** Rows ahead over which means are taken. */
const WINDOWS = [2, 3, 5, 7, 10, 14, 30];

/**
 * What the features of the rows before and after a row say of it: the values of later and earlier rows, how much they
 * differ from its own, and means of the rows that follow. A target that is measured later, as a difference, a mean or
 * in another unit, is found among them.
 *
 * @param order rows as they follow one another; a row's neighbours are those of its group
 * @param groups the series of each row of the table
 */
export function seriesColumns(
  features: readonly NumberColumn[],
  order: Int32Array,
  groups: Int32Array,
): NumberColumn[] {
  const n = features[0]?.values.length ?? 0;
  return features.flatMap(({ name, values }) => {
    const neighbour = (lead: number): Float64Array => {
      const out = new Float64Array(n).fill(NaN);
      for (let i = 0; i < order.length; i++) {
        const [row, other] = [at(order, i), order[i + lead]];
        if (other !== undefined && groups[row] === groups[other]) out[row] = at(values, other);
      }
      return out;
    };
    const leads = Array.from({ length: LEADS }, (_, i) => neighbour(i + 1));
    const lags = Array.from({ length: LAGS }, (_, i) => neighbour(-i - 1));
    const column = (title: string, of: Float64Array): NumberColumn => ({
      kind: 'number',
      name: title,
      values: of,
    });
    const later = leads.flatMap((of, i) => [
      column(`${name} ${i + 1} rows later`, of),
      column(
        `the change of ${name} over ${i + 1} rows`,
        of.map((value, row) => value - at(values, row)),
      ),
    ]);
    const earlier = lags.map((of, i) => column(`${name} ${i + 1} rows earlier`, of));
    const means = WINDOWS.map((window) =>
      column(
        `the mean of ${name} over the next ${window} rows`,
        Float64Array.from({ length: n }, (_, row) => {
          let sum = 0;
          for (let lead = 0; lead < window; lead++) sum += leads[lead]?.[row] ?? NaN;
          return sum / window;
        }),
      ),
    );
    return [...later, ...earlier, ...means];
  });
}
