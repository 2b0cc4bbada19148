import { at, count, counted } from '../../foundation/numbers.js';
import type { ColumnProfile } from '../../data/profile/profile.js';
import { isCoded, type Column } from '../../data/table/table.js';
import { datesOf } from './flaws.js';
import type { Leak, Watched } from './leak.js';

/** A column of fewer rows than this may have a different value in each by chance. */
const FEWEST_ROWS_OF_IDENTIFIER = 20;
/** Numbers that count rows leave out fewer than this many for each that they use. */
const WIDEST_COUNT = 2;
/** A category of more values than this, with fewer rows for each than this, is called many-valued. */
const MANY_VALUES = 10;
const FEW_ROWS_OF_A_VALUE = 30;

/** Columns that never vary, that name rows, that have very many values, or that were marked as known afterwards. */
export function watchColumns({ features, profiles, roles }: Watched): Leak[] {
  const found = features.flatMap((column) => {
    const profile = profiles.find((p) => p.name === column.name);
    return profile ? watchColumn(column, profile, roles.group) : [];
  });
  const marked = roles.withheld.map((column): Leak => ({
    column,
    kind: 'known-after',
    measure: 1,
    message: `${column} is marked as known only after the outcome; students do not get it.`,
  }));
  return [...found, ...marked];
}

export function watchColumn(
  column: Column,
  { name, distinct, missing }: ColumnProfile,
  group: string | null = null,
): Leak[] {
  const rowCount = (isCoded(column) ? column.codes : column.values).length;
  const present = rowCount - missing;
  if (distinct <= 1) {
    const message =
      distinct === 0 ? `${name} has no value in any row.` : `${name} has the same value in every row.`;
    return [{ column: name, kind: 'constant', measure: distinct, message }];
  }
  // Dates that were read as texts are another matter.
  if (
    distinct === present &&
    present >= FEWEST_ROWS_OF_IDENTIFIER &&
    couldName(column, present) &&
    datesOf(column).length === 0
  ) {
    return [
      {
        column: name,
        kind: 'identifier',
        measure: distinct / rowCount,
        message: `${name} is different in each of ${counted(present, 'row')}: it names rows, and a model can memorise them.`,
      },
    ];
  }
  const namesMost = column.kind === 'text' && 2 * distinct > present && present >= FEWEST_ROWS_OF_IDENTIFIER;
  if (namesMost && datesOf(column).length === 0)
    return [
      {
        column: name,
        kind: 'names-rows',
        measure: distinct,
        message: `${name} has ${count(distinct)} texts in ${counted(present, 'row')}: it nearly names them, and a model can memorise them.`,
      },
    ];
  if (column.kind === 'category' && name !== group && distinct > 1) {
    const each = present / distinct;
    if (distinct > MANY_VALUES && each < FEW_ROWS_OF_A_VALUE) {
      return [
        {
          column: name,
          kind: 'many-valued',
          measure: distinct,
          message: `${name} has ${count(distinct)} values, ${Number(each.toFixed(1))} rows each: its importance will be overstated.`,
        },
      ];
    }
  }
  return [];
}

/** Words of a text from which on it is free text, which is read and names nothing (common practice). */
const WORDS_OF_FREE_TEXT = 4;
const TEXTS_LOOKED_AT = 200;

/** Whether a column holds sentences. */
export function isFreeText(column: Column): boolean {
  if (!isCoded(column) || column.kind !== 'text') return false;
  const texts = column.levels.slice(0, TEXTS_LOOKED_AT);
  const words = texts.reduce((sum, text) => sum + text.trim().split(/\s+/).length, 0);
  return words >= WORDS_OF_FREE_TEXT * texts.length;
}

/** Texts can name rows; of numbers, whole ones that fill their range: counted, not measured. */
function couldName(column: Column, present: number): boolean {
  if (isCoded(column)) return true;
  if (column.kind === 'time') return false;
  let low = Infinity;
  let high = -Infinity;
  for (let row = 0; row < column.values.length; row++) {
    const value = at(column.values, row);
    if (Number.isNaN(value)) continue;
    if (!Number.isInteger(value)) return false;
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  return high - low < WIDEST_COUNT * present;
}
