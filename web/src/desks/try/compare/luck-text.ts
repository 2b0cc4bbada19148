import { count } from '@modest-sieve/core/foundation';
import type { Schemas } from '../../../api/client.js';
import { figureText } from '../../../kit/table/format.js';

/**
 * How much of the best of several runs may be luck, in words.
 *
 * @param name of the metric
 */
export function luckText({ luck, runs }: Schemas['RunsLuck'], name: string): string {
  if (!luck) return `How much of the best ${name} is luck is not known: fewer than two settings have one.`;
  const { seen, expected, settings } = luck;
  const among =
    settings > runs ? `${count(settings)} settings of ${count(runs)} runs` : `${count(runs)} runs`;
  const judged = `The best of ${among} has ${figureText(seen)} on all rows out of fold; one that is chosen so gives ${figureText(expected)} on rows that had no say in the choice`;
  return luck.luck > 0
    ? `${judged}: about ${figureText(luck.luck)} may be luck. Settings of a curve or grid that were not chosen are not counted.`
    : `${judged}: no luck that can be seen.`;
}
