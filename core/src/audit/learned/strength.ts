import { at } from '../../foundation/numbers.js';
import { labelsOf } from '../../data/table/labels.js';
import type { Roles } from '../../data/table/roles.js';
import { pearson } from '../../data/profile/association.js';
import { columnNamed, isCoded, type Column, type Table } from '../../data/table/table.js';

/** Columns of a block that a model gets: those that go with the target most, on the rows that it is fitted to. */
const MOST_COLUMNS = 12;

export interface GainRequest {
  readonly table: Table;
  readonly roles: Pick<Roles, 'target' | 'task' | 'positive'>;
  readonly base: readonly string[];
  /** Columns of as many rows as the table, under names that it has not. */
  readonly block: readonly Column[];
  readonly fit: Int32Array;
  /** Rows that are judged, in an order in which neighbours may resemble one another. */
  readonly judge: Int32Array;
}

export const mean = (values: Float64Array): number => values.reduce((a, b) => a + b, 0) / values.length;

/** The columns of a block that go with the target most, by the share of its variance that a line or their bins explain. */
export function strongest(block: readonly Column[], { table, roles, fit }: GainRequest): Column[] {
  const target = columnNamed(table, roles.target);
  const answers =
    roles.task === 'regression' && !isCoded(target)
      ? [Float64Array.from(fit, (row) => at(target.values, row))]
      : classIndicators(target, fit);
  return block
    .map((column) => ({ column, strength: strengthFor(column, fit, answers) }))
    .filter(({ strength }) => strength > 0)
    .sort((a, b) => b.strength - a.strength)
    .slice(0, MOST_COLUMNS)
    .map(({ column }) => column);
}

function classIndicators(target: Column, rows: Int32Array): Float64Array[] {
  const { labels, codes } = labelsOf(target);
  return labels.map((_, label) => Float64Array.from(rows, (row) => (codes[row] === label ? 1 : 0)));
}

/** The largest strength for one of the answers; what follows from the column alone is computed once. */
function strengthFor(column: Column, rows: Int32Array, answers: readonly Float64Array[]): number {
  const values = isCoded(column) ? null : Float64Array.from(rows, (row) => at(column.values, row));
  const bins = binned(column, rows);
  return Math.max(
    ...answers.map((y) => {
      const line = values === null ? 0 : (pearson(values, y) ?? 0) ** 2;
      return Math.max(line - 1 / rows.length, explained(bins, y));
    }),
  );
}

const BINS = 8;

/** Share of the variance of `y` between the bins of a column, less what as many bins of noise would explain. */
function explained({ bins, count }: Binned, y: Float64Array): number {
  if (count * 4 > bins.length) return 0;
  const [sums, sizes] = [new Float64Array(count), new Float64Array(count)];
  for (let i = 0; i < bins.length; i++) {
    const bin = at(bins, i);
    sums[bin] = at(sums, bin) + at(y, i);
    sizes[bin] = at(sizes, bin) + 1;
  }
  const middle = mean(y);
  const total = y.reduce((sum, value) => sum + (value - middle) ** 2, 0);
  let between = 0;
  for (let bin = 0; bin < count; bin++)
    if (at(sizes, bin) > 0) between += at(sizes, bin) * (at(sums, bin) / at(sizes, bin) - middle) ** 2;
  return total > 0 ? between / total - (count - 1) / (bins.length - 1) : 0;
}

interface Binned {
  /** The bin of each row. */
  readonly bins: Int32Array;
  readonly count: number;
}

function binned(column: Column, rows: Int32Array): Binned {
  if (isCoded(column))
    return { bins: rows.map((row) => at(column.codes, row) + 1), count: column.levels.length + 1 };
  const values = Float64Array.from(rows, (row) => at(column.values, row));
  const sorted = values.filter((value) => !Number.isNaN(value)).sort();
  const cuts = Float64Array.from(
    { length: BINS - 1 },
    (_, i) => sorted[Math.floor(((i + 1) * sorted.length) / BINS)] ?? 0,
  );
  const bins = new Int32Array(rows.length).fill(BINS);
  for (let i = 0; i < bins.length; i++) {
    const value = at(values, i);
    if (Number.isNaN(value)) continue;
    let bin = 0;
    while (bin < cuts.length && value >= at(cuts, bin)) bin++;
    bins[i] = bin;
  }
  return { bins, count: BINS + 1 };
}
