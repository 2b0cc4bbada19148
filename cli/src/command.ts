import { SieveError, type Helpers, type Work } from '@modest-sieve/core/foundation';
import type { ReadOptions, ReadTable, Table } from '@modest-sieve/core/data';
import type { Command } from 'commander';

/** A file that a command makes; all files of a command appear together, complete, or none does. */
export interface OutputFile {
  readonly path: string;
  readonly content: string | Uint8Array;
}

/** What a command comes to. */
export interface Outcome {
  /** Printed alone on standard output with `--json`. */
  readonly json: Readonly<Record<string, unknown>>;
  /** Printed otherwise. */
  readonly text: string;
  /** Whether every check holds; true for commands without checks. */
  readonly holds?: boolean;
  readonly files?: readonly OutputFile[];
}

/** What a command may use of the world. */
export interface Tools {
  /** The bytes of a file, or of standard input for `-`. @throws SieveError `no-file`, `too-large` */
  bytes(path: string): Promise<Uint8Array>;
  /** A table in any format that the core reads. @throws SieveError as `bytes` and `readTable` */
  table(path: string, options?: Omit<ReadOptions, 'file'>): Promise<ReadTable>;
  /** A sentence on standard error. */
  say(message: string): void;
  /** How work on a table is to be done: with threads if it is large. */
  workOn(table: Table): Work;
  /** Threads for work that a command waits for. */
  readonly helpers: Helpers;
}

/** Runs one command with what was given on the line. */
export type Run<Options> = (tools: Tools, args: readonly string[], options: Options) => Promise<Outcome>;

/** Adds a command to the program; `start` runs it and prints what it comes to. */
export type AddCommand = (program: Command, start: Start) => void;
export type Start = <Options>(run: Run<Options>) => (...given: unknown[]) => Promise<void>;

export const usage = (message: string, field?: string): SieveError =>
  new SieveError('usage', message, field === undefined ? {} : { field });

/** The number that an option was given as. @throws SieveError `usage` */
export function numberOption(name: string): (text: string) => number {
  return (text) => {
    const value = Number(text);
    if (text.trim() === '' || !Number.isFinite(value))
      throw usage(`--${name} is a number, not “${text}”.`, name);
    return value;
  };
}
