import { SieveError } from '../../foundation/errors.js';
import { at, counted } from '../../foundation/numbers.js';
import { labelsOf } from '../../data/table/labels.js';
import { columnNamed, isCoded, type Table } from '../../data/table/table.js';
import { targetRows, type Target } from '../prepared/target.js';
import { codesOf, SCREENS, statisticOf, type ScreenBy, type Side, type Statistic } from './statistics.js';

/** A screening before a model is fitted: learned from the training rows, as all preparation is. */
export interface Screening {
  readonly by: ScreenBy;
  /** How many columns are kept, the strongest. */
  readonly keep: number;
}

/**
 * Makes sure that a screening can be asked for.
 *
 * @param features those that it chooses among
 * @throws SieveError `screening`
 */
export function checkScreening({ by, keep }: Screening, features: number): void {
  if (!SCREENS.includes(by))
    throw new SieveError('screening', `There is no screening by “${by}”.`, { field: 'screening' });
  if (!Number.isInteger(keep) || keep < 1 || keep > features)
    throw new SieveError(
      'screening',
      `A screening of ${counted(features, 'column')} keeps from 1 to ${features}, not ${keep}.`,
      {
        field: 'screening',
      },
    );
}

/** What is screened: columns on some rows. */
export interface ScreenRequest {
  readonly table: Table;
  readonly target: Target;
  readonly features: readonly string[];
  readonly rows: Int32Array;
  readonly by: ScreenBy;
}

/**
 * The columns that a screening keeps, the strongest of them first: fewer than were asked for where the others have no
 * statistic.
 *
 * @throws SieveError `screening` where none has one
 */
export function screenedFeatures(request: ScreenRequest, keep: number): string[] {
  const { columns, target } = sidesOf(request);
  const found = columns.map(({ side }) => statisticOf(request.by, side, target));
  const names = strongestFirst(found)
    .filter((c) => found[c] !== null)
    .slice(0, keep)
    .map((c) => at(columns, c).column);
  if (names.length > 0) return names;
  throw new SieveError('screening', 'No column can be screened so: none varies, or none holds numbers.', {
    field: 'by',
  });
}

/** By p, and of equal ones by the statistic; columns without one last. Places among the columns. */
export function strongestFirst(found: readonly (Statistic | null)[]): number[] {
  const p = (c: number) => found[c]?.p ?? 2;
  const value = (c: number) => found[c]?.value ?? -1;
  return [...found.keys()].sort((a, b) => p(a) - p(b) || value(b) - value(a) || a - b);
}

/** The columns and the target on the rows, cut into parts once where a statistic counts. */
export function sidesOf({ table, target, features, rows, by }: ScreenRequest) {
  const prepared = (side: Side): Side => (by === 'anova' ? side : codesOf(side));
  const own = targetRows(target, rows);
  const truth: Side =
    own.kind === 'numbers'
      ? { kind: 'numbers', values: own.values }
      : { kind: 'codes', codes: own.codes, count: own.labels.length };
  const columns = features.map((column) => {
    const found = columnNamed(table, column);
    if (!isCoded(found))
      return {
        column,
        side: prepared({ kind: 'numbers', values: Float64Array.from(rows, (row) => at(found.values, row)) }),
      };
    const { labels, codes } = labelsOf(found);
    return {
      column,
      side: { kind: 'codes' as const, codes: rows.map((row) => codes[row] ?? -1), count: labels.length },
    };
  });
  return { columns, target: prepared(truth) };
}
