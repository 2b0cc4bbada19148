import { watchAsRead } from './as-read.js';
import { USUAL_PIVOT } from '../../data/table/dates.js';
import type { Step } from '../../data/prepare/step.js';
import { correctedAssociation, type Association } from '../../data/profile/correlations.js';
import { barsByTarget, type TargetInBars } from '../../data/profile/bars-by-target.js';
import { profileTable, type ColumnProfile } from '../../data/profile/profile.js';
import { counted } from '../../foundation/numbers.js';
import type { Roles } from '../../data/table/roles.js';
import { columnNamed, isMissing, type Column, type Table } from '../../data/table/table.js';
import type { Leak } from './leak.js';
import { watchRepeats } from './rows.js';
import { watchEachColumn, watchLeaks } from './watch.js';

/** Something about a table that should be seen, and the step that fixes it, where one does. */
export interface Finding {
  readonly column: string | null;
  readonly message: string;
  readonly fix: Step | null;
  /** Whether the column is the same in all rows, or another in each: those can go together. */
  readonly isUninformative: boolean;
}

/** Rows that are complete once a column, and those before it in the list, are left out. */
export interface CompleteRows {
  /** Null for the first entry: no column is left out. */
  readonly without: string | null;
  readonly rows: number;
}

export interface Findings {
  readonly findings: readonly Finding[];
  /** How strongly each column goes with the target; empty without one. */
  readonly strengths: readonly ({ readonly column: string } & Association)[];
  /** The target along each column's distribution; null without one. */
  readonly along: TargetInBars | null;
  /** Empty where no cell is missing. */
  readonly complete: readonly CompleteRows[];
}

/**
 * What a look at a table finds: leaks and flaws with the steps that fix them, how strongly columns go with the
 * target, and what blanks cost.
 *
 * @param roles null before the target is marked; findings are then those that need none
 */
export function findingsOf(
  table: Table,
  roles: Roles | null,
  profiles: readonly ColumnProfile[] = profileTable(table),
): Findings {
  const leaks = roles
    ? watchLeaks(table, roles, profiles)
    : [...watchEachColumn(table, profiles), ...watchAsRead(table), ...watchRepeats(table)];
  const unlabelled = roles ? (profiles.find(({ name }) => name === roles.target)?.missing ?? 0) : 0;
  return {
    findings: [
      ...(roles && unlabelled > 0 ? [withoutLabel(roles.target, unlabelled)] : []),
      ...leaks.map((leak) => ({
        column: leak.column,
        message: leak.message,
        fix: fixOf(leak),
        isUninformative: leak.kind === 'constant' || leak.kind === 'identifier',
      })),
    ],
    strengths: roles ? strengthsOf(table, roles) : [],
    along: roles && barsByTarget(table, roles, profiles),
    complete: completeRows(table, profiles),
  };
}

const withoutLabel = (target: string, rows: number): Finding => ({
  column: target,
  message: `${counted(rows, 'row has', 'rows have')} no ${target}: ${rows === 1 ? 'it' : 'they'} cannot be trained on or marked.`,
  fix: { kind: 'drop-missing', values: { how: 'any', columns: [target] } },
  isUninformative: false,
});

const readDates = (column: string, as: string): Step => ({
  kind: 'convert',
  values: { columns: [column], as, pivot: USUAL_PIVOT, otherwise: 'missing' },
});

/** The step that fixes a leak; null where it is for a person to judge. */
function fixOf({ kind, column }: Leak): Step | null {
  switch (kind) {
    case 'constant':
    case 'identifier':
    case 'predictive':
    case 'label-in-text':
    case 'alike':
      return column === null ? null : { kind: 'drop-columns', values: { columns: [column] } };
    case 'many-valued':
      return column === null
        ? null
        : { kind: 'rare-categories', values: { column, least: 30, how: 'together', name: 'other' } };
    case 'rare':
      return column === null
        ? null
        : { kind: 'rare-categories', values: { column, least: 10, how: 'together', name: 'other' } };
    case 'dates':
      return column === null ? null : readDates(column, 'date');
    case 'dates-month-first':
      return column === null ? null : readDates(column, 'date, month before day');
    case 'blanks':
      return { kind: 'trim', values: { columns: [], markers: 'missing' } };
    case 'duplicates':
      return { kind: 'drop-repeated', values: { columns: [] } };
    case 'order':
      return { kind: 'shuffle', values: { seed: 1 } };
    // A person has to say whether day or month comes first.
    case 'dates-unclear':
    case 'names-rows':
    case 'header':
    case 'known-after':
    case 'learned':
    case 'gaps':
    case 'drift':
    case 'sum':
    case 'missing':
    case 'contradictions':
      return null;
  }
}

function strengthsOf(table: Table, { target }: Roles): Findings['strengths'] {
  const answer = columnNamed(table, target);
  return table.columns.flatMap((column) => {
    const association = column.name === target ? null : correctedAssociation(column, answer);
    return association ? [{ column: column.name, ...association }] : [];
  });
}

/** Columns with blanks, in the order in which leaving one out keeps the most rows complete. */
function completeRows(table: Table, profiles: readonly ColumnProfile[]): CompleteRows[] {
  const lacking = new Set(profiles.filter(({ missing }) => missing > 0).map(({ name }) => name));
  const left = table.columns.filter(({ name }) => lacking.has(name));
  if (left.length === 0) return [];
  const blanks = new Int32Array(table.rowCount);
  const masks = new Map(left.map((column) => [column.name, maskOf(column, table.rowCount)]));
  for (const mask of masks.values())
    for (let row = 0; row < blanks.length; row++) blanks[row] = (blanks[row] ?? 0) + (mask[row] ?? 0);
  const complete = () => blanks.reduce((n, missing) => n + (missing === 0 ? 1 : 0), 0);
  const out: CompleteRows[] = [{ without: null, rows: complete() }];
  while (masks.size > 0) {
    let best = { name: '', gain: -1, blanks: -1 };
    for (const [name, mask] of masks) {
      let gain = 0;
      let own = 0;
      for (let row = 0; row < blanks.length; row++) {
        own += mask[row] ?? 0;
        if (mask[row] === 1 && blanks[row] === 1) gain++;
      }
      if (gain > best.gain || (gain === best.gain && own > best.blanks)) best = { name, gain, blanks: own };
    }
    const mask = masks.get(best.name) ?? new Uint8Array();
    masks.delete(best.name);
    for (let row = 0; row < blanks.length; row++) blanks[row] = (blanks[row] ?? 0) - (mask[row] ?? 0);
    out.push({ without: best.name, rows: complete() });
  }
  return out;
}

function maskOf(column: Column, rowCount: number): Uint8Array {
  const mask = new Uint8Array(rowCount);
  for (let row = 0; row < rowCount; row++) mask[row] = isMissing(column, row) ? 1 : 0;
  return mask;
}
