import type { ColumnKind } from '../table/table.js';
import { cellText, type Table } from '../table/table.js';
import { changedRows, prepare, type StepEffect, type StepTables } from './prepare.js';
import type { Step } from './step.js';

/** Rows of a table beside what they were: what a step shows of itself. */
export interface StepExamples {
  /** Columns that are shown: those that the step touched, and the first others. */
  readonly columns: readonly string[];
  readonly rows: readonly ExampleRow[];
}

export interface ExampleRow {
  /** Its number in the raw table, from 1. */
  readonly row: number;
  /** What becomes of it. */
  readonly fate: 'stays' | 'falls out' | 'is repeated';
  /** For each column its cell before and after; undefined stands as null beside `absent`. */
  readonly cells: readonly ExampleCell[];
}

export interface ExampleCell {
  readonly before: string | null;
  readonly after: string | null;
  /** Whether the column is there before the step, and after it. */
  readonly there: 'both' | 'before' | 'after';
}

/** What the steps of a preparation do, without its table. */
export interface PreparePreview {
  readonly rows: number;
  readonly columns: readonly { readonly name: string; readonly kind: ColumnKind }[];
  readonly effects: readonly StepEffect[];
  /** Of the step that was asked for; null for one that was not done. */
  readonly examples: StepExamples | null;
  /** The columns that the step that was asked for is given, and their most frequent values, for its controls. */
  readonly given: readonly GivenColumn[];
}

export interface GivenColumn {
  readonly name: string;
  readonly kind: ColumnKind;
  /** The values of a column of classes, at most so many as a menu can show. */
  readonly values: readonly string[];
}

const MOST_EXAMPLES = 8;
const MOST_COLUMNS = 8;
const MOST_VALUES = 60;

/**
 * Does the steps and reports what each did, with examples for one of them.
 *
 * @param chosen number of the step whose examples are wanted, or null
 */
export function previewPreparation(
  raw: Table,
  steps: readonly Step[],
  chosen: number | null,
): PreparePreview {
  let shown: StepExamples | null = null;
  let given = raw;
  const prepared = prepare(raw, steps, (number, tables) => {
    if (number === chosen) shown = examplesOf(tables);
    if (chosen === null || number < chosen) given = tables.after;
  });
  return {
    rows: prepared.table.rowCount,
    columns: prepared.table.columns.map(({ name, kind }) => ({ name, kind })),
    effects: prepared.effects,
    examples: shown,
    given: given.columns.map((column) => ({
      name: column.name,
      kind: column.kind,
      values: 'levels' in column && column.kind !== 'text' ? column.levels.slice(0, MOST_VALUES) : [],
    })),
  };
}

function examplesOf({ before, after, rows, origin }: StepTables): StepExamples {
  const old = new Map(before.columns.map((column) => [column.name, column]));
  const now = new Map(after.columns.map((column) => [column.name, column]));
  const isTouched = (name: string) =>
    !old.has(name) || !now.has(name) || (!rows && old.get(name) !== now.get(name));
  const names = [...new Set([...before.columns, ...after.columns].map(({ name }) => name))];
  const touched = names.filter(isTouched);
  const columns = [...touched, ...names.filter((name) => !isTouched(name))].slice(0, MOST_COLUMNS);
  const pairs = rows ? examplePairs(rows, before.rowCount) : changedPairs(touched, old, now, before.rowCount);
  return {
    columns,
    rows: pairs.map(({ from, to, fate }) => ({
      row: (origin[from] ?? 0) + 1,
      fate,
      cells: columns.map((name): ExampleCell => {
        const [was, is] = [old.get(name), now.get(name)];
        return {
          before: was ? cellText(was, from) : null,
          after: is && to !== null ? cellText(is, to) : null,
          there: was && is ? 'both' : was ? 'before' : 'after',
        };
      }),
    })),
  };
}

interface Pair {
  readonly from: number;
  readonly to: number | null;
  readonly fate: ExampleRow['fate'];
}

/** Rows that fall out or are repeated; where all only move, the first ones. */
function examplePairs(rows: Int32Array, rowCount: number): Pair[] {
  const times = new Int32Array(rowCount);
  const last = new Int32Array(rowCount).fill(-1);
  rows.forEach((row, to) => {
    times[row] = (times[row] ?? 0) + 1;
    last[row] = to;
  });
  const pairs: Pair[] = [];
  for (let from = 0; from < rowCount && pairs.length < MOST_EXAMPLES; from++) {
    if (times[from] === 0) pairs.push({ from, to: null, fate: 'falls out' });
    else if ((times[from] ?? 0) > 1) pairs.push({ from, to: last[from] ?? 0, fate: 'is repeated' });
  }
  if (pairs.length > 0) return pairs;
  return Array.from(rows.slice(0, MOST_EXAMPLES), (from, to) => ({ from, to, fate: 'stays' as const }));
}

/** Rows of which a cell changed; where only columns come or go, the first ones. */
function changedPairs(
  touched: readonly string[],
  old: ReadonlyMap<string, Table['columns'][number]>,
  now: ReadonlyMap<string, Table['columns'][number]>,
  rowCount: number,
): Pair[] {
  const changed = new Set<number>();
  for (const name of touched) {
    const [was, is] = [old.get(name), now.get(name)];
    if (was && is) for (const row of changedRows(was, is, MOST_EXAMPLES)) changed.add(row);
  }
  const first = Array.from({ length: Math.min(MOST_EXAMPLES, rowCount) }, (_, row) => row);
  return [...(changed.size > 0 ? [...changed].sort((a, b) => a - b) : first)]
    .slice(0, MOST_EXAMPLES)
    .map((row) => ({ from: row, to: row, fate: 'stays' }));
}
