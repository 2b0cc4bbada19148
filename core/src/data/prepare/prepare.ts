import { SieveError } from '../../foundation/errors.js';
import { indices } from '../../foundation/numbers.js';
import { cellText, isCoded, type Column, type Table } from '../table/table.js';
import { checkStep, stepKindOf } from './registry.js';
import type { Step } from './step.js';

/** What a step did to the table that it was given. */
export interface StepEffect {
  readonly rowsBefore: number;
  readonly rowsAfter: number;
  /** Rows that are there no more. */
  readonly fallen: number;
  /** Rows that are there more than once, counted without the first. */
  readonly repeated: number;
  readonly added: readonly string[];
  readonly dropped: readonly string[];
  /** Columns that stayed and of which cells are otherwise than before, and in how many rows. */
  readonly changed: readonly { readonly column: string; readonly cells: number }[];
  readonly remarks: readonly string[];
  /** Whether it was fitted to the rows. */
  readonly learns: boolean;
  /** Why it could not be done; the table is then as it was before it. */
  readonly problem: { readonly message: string; readonly field: string | null } | null;
}

/** A table before and after one step; `rows` gives for each row after it the row before. */
export interface StepTables {
  readonly before: Table;
  readonly after: Table;
  readonly rows: Int32Array | null;
  /** For each row before it the row of the raw table. */
  readonly origin: Int32Array;
}

export interface Prepared {
  readonly table: Table;
  /** For each row the row of the raw table that it was. */
  readonly origin: Int32Array;
  /** One for each step, those switched off too. */
  readonly effects: readonly StepEffect[];
}

/**
 * Does the steps of a preparation in order. A step that does not fit is passed over and its effect says why, so
 * that a list of steps shows on another file where it no longer fits.
 *
 * @param watch called with the tables of each step that was done
 */
export function prepare(
  raw: Table,
  steps: readonly Step[],
  watch: (step: number, tables: StepTables) => void = () => undefined,
): Prepared {
  let table = raw;
  let origin = indices(raw.rowCount);
  const effects = steps.map((step, number): StepEffect => {
    if (step.off) return unchanged(table, false, null);
    try {
      const kind = checkStep(step, table);
      const applied = kind.apply(table, step.values);
      const { rows } = applied;
      const tables = { before: table, after: applied.table, rows: rows ?? null, origin };
      const effect = effectOf(tables, applied.remarks ?? [], kind.learns(step.values));
      watch(number, tables);
      table = applied.table;
      if (rows) origin = rows.map((row) => origin[row] ?? -1);
      return effect;
    } catch (error) {
      if (!(error instanceof SieveError)) throw error;
      const { message, place } = error;
      return unchanged(table, false, { message, field: place.field ?? null });
    }
  });
  return { table, origin, effects };
}

/** The first step that does not fit, if any does not, as an error of the whole list. */
export function firstProblem(steps: readonly Step[], effects: readonly StepEffect[]): SieveError | null {
  const at = effects.findIndex((effect) => effect.problem !== null);
  const problem = effects[at]?.problem;
  const step = steps[at];
  if (!problem || !step) return null;
  return new SieveError(
    'step',
    `Step ${at + 1}, ${stepKindOf(step).title.toLowerCase()}: ${problem.message}`,
    {
      field: `steps.${at}`,
    },
  );
}

const unchanged = (table: Table, learns: boolean, problem: StepEffect['problem']): StepEffect => ({
  rowsBefore: table.rowCount,
  rowsAfter: table.rowCount,
  fallen: 0,
  repeated: 0,
  added: [],
  dropped: [],
  changed: [],
  remarks: [],
  learns,
  problem,
});

function effectOf(tables: StepTables, remarks: readonly string[], learns: boolean): StepEffect {
  const { before, after, rows } = tables;
  const names = new Set(after.columns.map((column) => column.name));
  const old = new Map(before.columns.map((column) => [column.name, column]));
  const kept = rows ? distinctCount(rows, before.rowCount) : before.rowCount;
  return {
    rowsBefore: before.rowCount,
    rowsAfter: after.rowCount,
    fallen: before.rowCount - kept,
    repeated: after.rowCount - kept,
    added: after.columns.filter(({ name }) => !old.has(name)).map(({ name }) => name),
    dropped: before.columns.filter(({ name }) => !names.has(name)).map(({ name }) => name),
    changed: after.columns.flatMap((column) => {
      const was = old.get(column.name);
      // Rows that are only moved, or fewer, keep their cells.
      if (!was || was === column || rows) return [];
      const cells = changedRows(was, column, Infinity).length;
      return cells > 0 || was.kind !== column.kind ? [{ column: column.name, cells }] : [];
    }),
    remarks,
    learns,
    problem: null,
  };
}

function distinctCount(rows: Int32Array, rowCount: number): number {
  const seen = new Uint8Array(rowCount);
  let count = 0;
  for (let i = 0; i < rows.length; i++) {
    const row = rows[i] ?? 0;
    if (seen[row] === 0) count++;
    seen[row] = 1;
  }
  return count;
}

/** The first rows, at most so many, in which two columns of as many rows differ, by what their cells say. */
export function changedRows(before: Column, after: Column, most: number): number[] {
  const same = sameCell(before, after);
  const rows = isCoded(after) ? after.codes.length : after.values.length;
  const changed: number[] = [];
  for (let row = 0; row < rows && changed.length < most; row++) if (!same(row)) changed.push(row);
  return changed;
}

function sameCell(before: Column, after: Column): (row: number) => boolean {
  if (isCoded(before) && isCoded(after)) {
    const rank = new Map(after.levels.map((level, code) => [level, code]));
    const codeOf = before.levels.map((level) => rank.get(level) ?? -2);
    return (row) => {
      const code = before.codes[row] ?? -1;
      return (code < 0 ? -1 : codeOf[code]) === after.codes[row];
    };
  }
  if (isCoded(before)) {
    const { values } = after as Exclude<Column, { codes: Int32Array }>;
    const numbers = before.levels.map(Number);
    return (row) => {
      const code = before.codes[row] ?? -1;
      const value = values[row] ?? NaN;
      return code < 0 ? Number.isNaN(value) : numbers[code] === value;
    };
  }
  if (isCoded(after)) return (row) => cellText(before, row) === cellText(after, row);
  return (row) => {
    const [x, y] = [before.values[row] ?? NaN, after.values[row] ?? NaN];
    return x === y || (Number.isNaN(x) && Number.isNaN(y));
  };
}
