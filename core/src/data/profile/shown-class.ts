import { at } from '../../foundation/numbers.js';
import { labelsOf } from '../table/labels.js';
import type { Roles } from '../table/roles.js';
import { isCoded, type Column } from '../table/table.js';

/**
 * The class whose share is shown where one is looked at alone: the positive one, or the most frequent, of equal ones the
 * first in label order; null for a target that is a number.
 */
export function shownClass(
  target: Column,
  { task, positive }: Pick<Roles, 'task' | 'positive'>,
): string | null {
  if (task === 'regression' && !isCoded(target)) return null;
  if (positive !== null) return positive;
  const { labels, codes } = labelsOf(target);
  const counts = labels.map(() => 0);
  for (const code of codes) if (code >= 0) counts[code] = at(counts, code) + 1;
  return labels[counts.indexOf(Math.max(...counts))] ?? '';
}
