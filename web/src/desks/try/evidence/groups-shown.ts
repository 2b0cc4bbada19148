import { metricNamed } from '@modest-sieve/core/metrics';
import type { Schemas } from '../../../api/client.js';

export type Group = Schemas['TrialEvidence']['groups'][number];

/**
 * Subgroups whose name holds a text, in an order.
 *
 * @param order `rows`, `value`, or the key of a metric: the worst first, those without a score last
 */
export function groupsShown(groups: readonly Group[], wanted: string, order: string): Group[] {
  const text = wanted.trim().toLowerCase();
  const found = groups.filter(({ value }) => value.toLowerCase().includes(text));
  if (order === 'value') return found;
  if (order === 'rows') return found.sort((a, b) => b.rows - a.rows);
  const sign = metricNamed(order).better === 'higher' ? 1 : -1;
  const badness = ({ figures }: Group) => {
    const value = figures[order]?.value;
    return value === null || value === undefined ? Infinity : sign * value;
  };
  return found.sort((a, b) => {
    const [first, second] = [badness(a), badness(b)];
    return first === second ? 0 : first - second;
  });
}
