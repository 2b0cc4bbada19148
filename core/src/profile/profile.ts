import { at, quantile, sum } from '../numbers.js';
import { countCodes } from '../table/labels.js';
import { isCoded, type Column, type ColumnKind, type Table } from '../table/table.js';

/** Equal-width bins from `low` to `high`; the last one includes `high`. */
export interface Histogram {
  readonly low: number;
  readonly high: number;
  readonly counts: readonly number[];
}

export interface NumberSummary {
  readonly mean: number;
  /** With n − 1; null for fewer than two values. */
  readonly sd: number | null;
  readonly min: number;
  readonly q1: number;
  readonly median: number;
  readonly q3: number;
  readonly max: number;
}

export interface ColumnProfile {
  readonly name: string;
  readonly kind: ColumnKind;
  readonly missing: number;
  readonly distinct: number;
  /** Null for columns of texts and for a column without any value; milliseconds for times. */
  readonly summary: NumberSummary | null;
  readonly histogram: Histogram | null;
  /** The most frequent values of a column of texts, most frequent first. */
  readonly top: readonly { readonly value: string; readonly count: number }[];
  /** What stopped the column from being numeric. */
  readonly note: string | null;
}

const BINS = 24;
const TOP_VALUES = 8;

/** Summaries of every column, in column order. */
export function profileTable(table: Table, notes: readonly (string | null)[] = []): ColumnProfile[] {
  return table.columns.map((column, i) => profileColumn(column, notes[i] ?? null));
}

function profileColumn(column: Column, note: string | null): ColumnProfile {
  if (isCoded(column)) {
    const counts = countCodes(column.codes, column.levels.length);
    const present = counts.reduce((a, b) => a + b, 0);
    const top = column.levels
      .map((value, code) => ({ value, count: at(counts, code) }))
      .filter((level) => level.count > 0)
      .sort((a, b) => b.count - a.count);
    return {
      name: column.name,
      kind: column.kind,
      missing: column.codes.length - present,
      distinct: top.length,
      summary: null,
      histogram: null,
      top: top.slice(0, TOP_VALUES),
      note,
    };
  }
  const sorted = column.values.filter((value) => !Number.isNaN(value)).sort();
  let distinct = 0;
  for (let i = 0; i < sorted.length; i++) if (i === 0 || sorted[i] !== sorted[i - 1]) distinct++;
  return {
    name: column.name,
    kind: column.kind,
    missing: column.values.length - sorted.length,
    distinct,
    summary: sorted.length === 0 ? null : summarise(sorted),
    histogram: sorted.length === 0 ? null : histogram(sorted, distinct),
    top: [],
    note,
  };
}

function summarise(sorted: Float64Array): NumberSummary {
  const n = sorted.length;
  const mean = sum(sorted) / n;
  const squares = sum(sorted.map((value) => (value - mean) ** 2));
  return {
    mean,
    sd: n < 2 ? null : Math.sqrt(squares / (n - 1)),
    min: at(sorted, 0),
    q1: quantile(sorted, 0.25),
    median: quantile(sorted, 0.5),
    q3: quantile(sorted, 0.75),
    max: at(sorted, n - 1),
  };
}

function histogram(sorted: Float64Array, distinct: number): Histogram {
  const low = at(sorted, 0);
  const high = at(sorted, sorted.length - 1);
  const counts = new Array<number>(Math.min(BINS, distinct)).fill(0);
  const width = (high - low) / counts.length;
  for (const value of sorted) {
    const bin = width > 0 ? Math.min(Math.floor((value - low) / width), counts.length - 1) : 0;
    counts[bin] = at(counts, bin) + 1;
  }
  return { low, high, counts };
}
