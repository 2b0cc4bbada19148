import { watchAsRead } from './as-read.js';
import { at } from '../../foundation/numbers.js';
import { learnedAuditOf } from '../learned/audit.js';
import { profileTable, type ColumnProfile } from '../../data/profile/profile.js';
import { strataOf } from '../../splitting/algorithms/strata.js';
import { labelsOf } from '../../data/table/labels.js';
import { featuresOf } from '../../data/table/roles.js';
import { columnNamed, type Table } from '../../data/table/table.js';
import { isFreeText, watchColumn, watchColumns } from './columns.js';
import {
  datesOf,
  watchDates,
  watchDrift,
  watchGaps,
  watchLabelInText,
  watchRare,
  watchTwinColumns,
} from './flaws.js';
import type { Leak, Watched } from './leak.js';
import { watchContradictions, watchMissing, watchOrder, watchRepeats } from './rows.js';
import { watchPredictive } from './predictive.js';
import { watchTogether } from './together.js';

/** What a small model learns from what nobody means as a feature; the measure is 1 where that is as good as the answer. */
const watchLearned = ({ table, roles }: Watched): Leak[] =>
  learnedAuditOf(table, roles)
    .filter(({ outcome }) => outcome !== 'holds')
    .map(({ message, measured, outcome }) => ({
      column: null,
      kind: 'learned',
      measure: outcome === 'fails' ? 1 : 0,
      message: `${message}: ${measured ?? ''}.`,
    }));

/** Every part of the leak watch, in the order in which findings are listed. */
const WATCHES: readonly ((watched: Watched) => Leak[])[] = [
  watchColumns,
  watchPredictive,
  watchTogether,
  watchLabelInText,
  watchTwinColumns,
  watchRare,
  watchDates,
  watchGaps,
  watchDrift,
  watchMissing,
  watchOrder,
  ({ table }) => watchAsRead(table),
  ({ table }) => watchRepeats(table),
  watchContradictions,
  watchLearned,
];

/**
 * Looks for what could give the answers of a table away, or mislead a model fitted to it.
 *
 * @param profiles summaries of the table's columns, if they are at hand
 * @throws SieveError `no-such-column`
 */
export function watchLeaks(
  table: Table,
  roles: Watched['roles'],
  profiles: readonly ColumnProfile[] = profileTable(table),
): Leak[] {
  const watched = { ...targetOf(table, roles), profiles };
  return WATCHES.flatMap((watch) => watch(watched));
}

/** A table with its target and features, for the parts of the watch that need no summaries. */
function targetOf(table: Table, roles: Watched['roles']): Omit<Watched, 'profiles'> {
  const target = columnNamed(table, roles.target);
  return {
    table,
    roles,
    target,
    classes: roles.task === 'regression' ? strataOf(target) : labelsOf(target),
    features: featuresOf(table, roles),
  };
}

/**
 * Findings that need no target: columns that do not vary, name rows, or have too many values, and dates that were read as texts.
 * What a free text or a date is for is not known yet, so that nobody is told to drop one.
 */
export const watchEachColumn = (table: Table, profiles: readonly ColumnProfile[]): Leak[] =>
  table.columns.flatMap((column, i) => [
    ...(isFreeText(column) ? [] : watchColumn(column, at(profiles, i))),
    ...datesOf(column),
  ]);
