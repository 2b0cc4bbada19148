import type { Column, Table } from '../table/table.js';
import type { Parameters, ValuesOf } from '../sentence/parameter.js';
import type { Plan, SentenceKind } from '../sentence/sentence.js';

/** One step of a preparation. */
export interface Step extends Plan {
  /** Kept in the list, and passed over. */
  readonly off?: boolean;
}

/** What a step makes of a table. */
export interface Applied {
  readonly table: Table;
  /** For each row of the new table the row that it was; left out where rows are as they were. */
  readonly rows?: Int32Array;
  /** What else is to be known of it, as sentences. */
  readonly remarks?: readonly string[];
}

/** A kind of step: everything that is to be known of it. */
export interface StepKind<P extends Parameters = Parameters> extends SentenceKind<P> {
  /** Why rows fall out by it, as a word or two beside their number; left out where they do not. */
  readonly reason?: string;
  /** Whether it is fitted to the rows, so that held-out rows would influence it. */
  learns(values: ValuesOf<P>): boolean;
  /** @throws SieveError with the key of a parameter as its field where a value does not fit */
  apply(table: Table, values: ValuesOf<P>): Applied;
}

/** Takes a kind with its own parameters into the registry, where all kinds are of one type. */
export const stepKind = <const P extends Parameters>(kind: StepKind<P>): StepKind => kind;

export const never = (): boolean => false;
export const always = (): boolean => true;

/** The table with some columns in place of those that are called the same, and new ones at the end. */
export function withColumns(table: Table, columns: readonly Column[]): Table {
  const byName = new Map(columns.map((column) => [column.name, column]));
  const kept = table.columns.map((column) => byName.get(column.name) ?? column);
  const old = new Set(table.columns.map((column) => column.name));
  return { rowCount: table.rowCount, columns: [...kept, ...columns.filter(({ name }) => !old.has(name))] };
}

export const withoutColumns = (table: Table, names: readonly string[]): Table => ({
  rowCount: table.rowCount,
  columns: table.columns.filter((column) => !names.includes(column.name)),
});
