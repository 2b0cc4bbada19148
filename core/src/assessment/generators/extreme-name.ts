import { SieveError } from '../../foundation/errors.js';
import type { AskedNames } from './generator.js';

/** Names that are few enough to be chosen from. */
const MOST_CHOICES = 30;

/**
 * Asks which of some names has the largest value.
 *
 * @param what what is named, in the plural, for errors
 * @throws SieveError `no-figure` with the field `asked` where there are too few or too many, or the largest is not alone
 */
export function largestOf(
  head: Pick<AskedNames, 'key' | 'name'>,
  values: readonly (readonly [name: string, value: number])[],
  what: string,
): AskedNames {
  const fail = (message: string) => new SieveError('no-figure', message, { field: 'asked' });
  const [first, second] = [...values].sort(([, a], [, b]) => b - a);
  if (!first || !second) throw fail(`There are fewer than two ${what} to choose from.`);
  if (values.length > MOST_CHOICES) throw fail(`There are more than ${MOST_CHOICES} ${what} to choose from.`);
  if (first[1] - second[1] <= 1e-9 * Math.abs(first[1])) throw fail(`${head.name}: two ${what} are equal.`);
  return {
    ...head,
    convention: null,
    choices: values.map(([name]) => name).sort(),
    right: [first[0]],
    several: false,
  };
}
