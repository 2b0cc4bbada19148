import type { Schemas } from '../../../api/client.js';

/** A column of more different values than this offers many places to split it. */
export const MANY_VALUES = 20;

/** The columns whose loss is largest first; those that are not defined last. */
export const byWorth = (
  lines: readonly Schemas['ColumnImportance'][],
): readonly Schemas['ColumnImportance'][] =>
  [...lines].sort((a, b) => (b.mean ?? -Infinity) - (a.mean ?? -Infinity) || (a.column < b.column ? -1 : 1));

/**
 * A loss with its standard error, in as many decimals as show three digits of the largest.
 *
 * @param widest the largest loss of the table
 */
export function worthText(
  { mean, se }: Pick<Schemas['ColumnImportance'], 'mean' | 'se'>,
  widest: number,
): string {
  if (mean === null) return 'undefined';
  const decimals = widest > 0 ? Math.min(12, Math.max(0, 2 - Math.floor(Math.log10(widest)))) : 0;
  // A loss that rounds to nought has no sign.
  const text = (value: number) => (Number(value.toFixed(decimals)) + 0).toFixed(decimals);
  return se === null ? text(mean) : `${text(mean)} ± ${text(se)}`;
}
