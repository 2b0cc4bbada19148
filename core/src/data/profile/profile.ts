import { at } from '../../foundation/numbers.js';
import { tallyOf, type Tally } from '../../foundation/statistics/tally.js';
import { countCodes } from '../table/labels.js';
import { isCoded, type CodedColumn, type Column, type ColumnKind, type Table } from '../table/table.js';
import { runAll, type Work } from '../../foundation/work/work.js';
import { summarise, type NumberSummary } from './number-summary.js';

/** Equal-width bins from `low` to `high`; the last one includes `high`. */
export interface Histogram {
  readonly low: number;
  readonly high: number;
  readonly counts: readonly number[];
}

export interface ColumnProfile {
  readonly name: string;
  readonly kind: ColumnKind;
  readonly missing: number;
  readonly distinct: number;
  /** Null for columns of texts and for a column without any value; milliseconds for times. */
  readonly summary: NumberSummary | null;
  readonly histogram: Histogram | null;
  /** The most frequent values of a column of texts, most frequent first, in label order where they are equal. */
  readonly top: readonly Frequency[];
  /** What stopped the column from being numeric, or how it was read. */
  readonly note: string | null;
}

export interface Frequency {
  readonly value: string;
  readonly count: number;
}

const BINS = 24;
const TOP_VALUES = 8;

/** Summaries of every column, in column order. */
export function profileTable(table: Table, notes: readonly (string | null)[] = []): ColumnProfile[] {
  return table.columns.map((column, i) => profileColumn({ column, note: notes[i] ?? null }));
}

/** The same, in the threads of a crew where there is one. */
export async function profileTableWith(
  table: Table,
  notes: readonly (string | null)[],
  work: Work,
): Promise<ColumnProfile[]> {
  if (!work.crew) return profileTable(table, notes);
  const inputs = table.columns.map((column, i) => ({
    input: { column, note: notes[i] ?? null },
    share: (i + 1) / table.columns.length,
  }));
  return runAll(profileColumnTask, inputs, work.crew, work, 'summarising');
}

export const profileColumnTask = { name: 'profileColumn', run: profileColumn };

/** Summary of one column; runs in any thread. */
function profileColumn({
  column,
  note,
}: {
  readonly column: Column;
  readonly note: string | null;
}): ColumnProfile {
  if (isCoded(column)) return profileCoded(column, note);
  const tally = tallyOf(column.values);
  const hasNone = tally.total === 0;
  return {
    name: column.name,
    kind: column.kind,
    missing: column.values.length - tally.total,
    distinct: tally.values.length,
    summary: hasNone ? null : summarise(tally),
    histogram: hasNone ? null : histogram(tally),
    top: [],
    note,
  };
}

function profileCoded(column: CodedColumn, note: string | null): ColumnProfile {
  const counts = countCodes(column.codes, column.levels.length);
  let present = 0;
  let distinct = 0;
  const top: Frequency[] = [];
  counts.forEach((count, code) => {
    if (count === 0) return;
    present += count;
    distinct++;
    if (top.length === TOP_VALUES && count <= at(top, TOP_VALUES - 1).count) return;
    const place = top.findIndex((other) => other.count < count);
    top.splice(place < 0 ? top.length : place, 0, { value: at(column.levels, code), count });
    top.length = Math.min(top.length, TOP_VALUES);
  });
  return {
    name: column.name,
    kind: column.kind,
    missing: column.codes.length - present,
    distinct,
    summary: null,
    histogram: null,
    top,
    note,
  };
}

function histogram({ values, counts: times }: Tally): Histogram {
  const low = at(values, 0);
  const high = at(values, values.length - 1);
  const counts = new Int32Array(Math.min(BINS, values.length));
  const last = counts.length - 1;
  const width = (high - low) / counts.length;
  for (let i = 0; i < values.length; i++) {
    const bin = width > 0 ? Math.min(Math.floor(((values[i] ?? 0) - low) / width), last) : 0;
    counts[bin] = (counts[bin] ?? 0) + (times[i] ?? 0);
  }
  return { low, high, counts: Array.from(counts) };
}
