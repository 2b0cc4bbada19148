import { count, counted } from '@modest-sieve/core/foundation';
import type { StepEffect } from '@modest-sieve/core/data';

const MOST_NAMED = 3;

const named = (names: readonly string[]): string =>
  names.length <= MOST_NAMED
    ? names.join(', ')
    : `${names.slice(0, MOST_NAMED).join(', ')} and ${names.length - MOST_NAMED} more`;

/** What a step did, in words: "41 rows fall out", "2 columns come: month, weekday". */
export function effectWords(effect: StepEffect): string {
  const parts: string[] = [];
  if (effect.fallen > 0)
    parts.push(`${counted(effect.fallen, 'row falls', 'rows fall')} out, ${count(effect.rowsAfter)} stay`);
  if (effect.repeated > 0) parts.push(`${counted(effect.repeated, 'row is', 'rows are')} repeated`);
  if (effect.changed.length > 0) {
    const cells = effect.changed.reduce((sum, { cells: n }) => sum + n, 0);
    const columns = named(effect.changed.map(({ column }) => column));
    parts.push(
      cells === 0
        ? `the type of ${columns} changes`
        : `${counted(cells, 'cell changes', 'cells change')} in ${columns}`,
    );
  }
  if (effect.dropped.length > 0)
    parts.push(`${counted(effect.dropped.length, 'column goes', 'columns go')}: ${named(effect.dropped)}`);
  if (effect.added.length > 0)
    parts.push(`${counted(effect.added.length, 'column comes', 'columns come')}: ${named(effect.added)}`);
  return parts.length === 0 ? 'Nothing changes.' : `${parts.join('; ')}.`;
}
