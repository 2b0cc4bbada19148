import type { ColumnProfile, PreparePreview, Roles, Step, StepEffect } from '@modest-sieve/core/data';
import type { ExerciseUse } from './exercises.js';
import type { RemovalInfo } from './removal.js';
import type { FoldSetInfo, SplitInfo } from './splits.js';

// What the HTTP API takes and answers of data sets, how they are brought and prepared.

export interface DataSetSummary {
  readonly id: string;
  readonly name: string;
  readonly rows: number;
  readonly columns: number;
  readonly target: string | null;
  readonly splits: number;
  readonly createdAt: string;
}

/** A file on its way into the course, or one that could not be read. */
export interface ImportInfo {
  readonly id: string;
  readonly fileName: string;
  /** The data set that it is a new raw table of; null for a new one. */
  readonly intoId: string | null;
  readonly state: 'waiting' | 'done' | 'failed';
  /** With what could be meant where one of several tables of the file has to be chosen. */
  readonly problem: {
    readonly code: string;
    readonly message: string;
    readonly choices?: readonly string[];
  } | null;
}

/** Which of several tables of a file is meant. */
export interface SheetChoice {
  readonly sheet: string;
}

export interface DataSetList {
  readonly dataSets: readonly DataSetSummary[];
  readonly imports: readonly ImportInfo[];
}

/** A name; empty for none where a thing may be without. */
export interface Naming {
  readonly name: string;
}

/** The version to go on with. */
export interface CurrentVersion {
  readonly version: number;
}

export interface DataSetDetail {
  readonly id: string;
  /** What takes the place of the id in paths where this version is meant: the id alone for the current one. */
  readonly address: string;
  readonly name: string;
  /** Number of the version that work goes on with. */
  readonly current: number;
  readonly removal: RemovalInfo;
  /** What columns mean, by their names. */
  readonly descriptions: Readonly<Record<string, string>>;
  readonly version: number;
  readonly rows: number;
  /** The steps that led to this version from the raw table, and what each did; none for a raw table itself. */
  readonly steps: readonly Step[];
  readonly effects: readonly StepEffect[];
  /** The raw table that this version was made of, which steps are done on. */
  readonly raw: { readonly number: number; readonly rows: number };
  readonly versions: readonly VersionInfo[];
  /** A version that is being made, or could not be. */
  readonly preparation: PreparationInfo | null;
  readonly profile: readonly ColumnProfile[];
  /** Null until the instructor has marked the columns. */
  readonly roles: Roles | null;
  /** What exercises on the data set hold out for good; null before the first release. */
  readonly reserve: ReserveInfo | null;
  readonly splits: readonly SplitInfo[];
  readonly foldSets: readonly FoldSetInfo[];
  readonly exercises: readonly ExerciseUse[];
}

/** The rows of a version that no later exercise may give away. */
export interface ReserveInfo {
  readonly rows: number;
  /** Those whose score students may see, and those that decide marks; the others are divided at the next release. */
  readonly feedback: number;
  readonly final: number;
  /** Titles of the releases that hold them out, the first one first. */
  readonly releases: readonly string[];
}

/** A version of a data set: a raw table as it came, or what steps made of one. */
export interface VersionInfo {
  readonly number: number;
  readonly rows: number;
  readonly columns: readonly string[];
  /** Number of the raw version that it was made from; null for a raw table. */
  readonly from: number | null;
  readonly steps: readonly Step[];
  readonly createdAt: string;
  /** Number of the first version that is the same table; null for a table that is new here. */
  readonly sameAs: number | null;
  readonly removal: RemovalInfo;
}

export interface PreparationInfo {
  readonly id: string;
  readonly state: 'waiting' | 'failed';
  readonly problem: { readonly code: string; readonly message: string } | null;
  readonly steps: readonly Step[];
}

/** Steps to be tried on the raw table; of the chosen one examples are shown. */
export interface PrepareRequest {
  readonly steps: readonly Step[];
  readonly chosen: number | null;
}

export type PrepareAnswer = PreparePreview;

export interface KeepSteps {
  readonly steps: readonly Step[];
}

/** What columns mean, in words, by their names. */
export interface ColumnDescriptions {
  readonly descriptions: Readonly<Record<string, string>>;
}
