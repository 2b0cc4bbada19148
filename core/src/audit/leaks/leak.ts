import type { ColumnProfile } from '../../data/profile/profile.js';
import type { Labelled } from '../../data/table/labels.js';
import type { Roles } from '../../data/table/roles.js';
import type { Column, Table } from '../../data/table/table.js';

/** What was found, and so what `measure` is: a number of values or rows, a strength between 0 and 1, a share. */
type LeakKind =
  | 'constant'
  | 'identifier'
  | 'many-valued'
  | 'names-rows'
  | 'known-after'
  | 'predictive'
  | 'sum'
  | 'missing'
  | 'order'
  | 'duplicates'
  | 'contradictions'
  | 'alike'
  | 'rare'
  | 'blanks'
  | 'header'
  | 'dates'
  | 'dates-month-first'
  | 'dates-unclear'
  | 'label-in-text'
  | 'gaps'
  | 'drift'
  | 'learned';

/** Something by which a table could give its answers away, or mislead a model fitted to it. */
export interface Leak {
  /** The column, or several with commas between; null where the rows themselves are meant. */
  readonly column: string | null;
  readonly kind: LeakKind;
  /** The figure by which it was found; `LeakKind` says which. */
  readonly measure: number;
  readonly message: string;
}

/** A table as the leak watch sees it. */
export interface Watched {
  readonly table: Table;
  readonly roles: Roles;
  readonly target: Column;
  /** The target's classes, or the fifths of a numeric one. */
  readonly classes: Labelled;
  /** Columns that a student would predict from. */
  readonly features: readonly Column[];
  /** Summary of each column of the table. */
  readonly profiles: readonly ColumnProfile[];
}
