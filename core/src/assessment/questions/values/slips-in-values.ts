import { shortNumber } from '../../../foundation/numbers.js';
import { asksNames, type Asked } from '../../generators/generator.js';
import { claimedSlips } from './claimed-slips.js';
import type { SlipIn } from '../contract/kind.js';
import type { Said } from './judge-values.js';

/** What a figure is given for another of the same question, whose values are few: the figure, and the other. */
const CONFUSED: Readonly<Record<string, { readonly for: string; readonly id: string }>> = {
  'simplest depth within one standard error': { for: 'best depth', id: 'best-for-one-standard-error' },
};

/**
 * The slips in the numbers of an answer, each where it was typed.
 *
 * @param fails keys of the figures that are not right
 */
export function slipsInValues(
  asked: readonly Asked[],
  said: ReadonlyMap<string, Said>,
  fails: readonly string[],
): SlipIn[] {
  const numbers = asked.flatMap((one) => {
    const own = said.get(one.key);
    return own && 'typed' in own && !asksNames(one) ? [{ one, typed: own.typed }] : [];
  });
  return numbers.flatMap(({ one, typed }) => {
    if (!fails.includes(one.key)) return [];
    const ids = new Set(claimedSlips(one, typed));
    const confused = CONFUSED[one.name];
    const other = confused && numbers.find(({ one: { name } }) => name === confused.for);
    // Of few settings any would fit by accident: what was found right elsewhere is given here on purpose.
    if (confused && other && typed.value === other.typed.value && !fails.includes(other.one.key))
      ids.add(confused.id);
    return [...ids].map((id) => ({
      id,
      field: one.key,
      evidence: `${shortNumber(typed.value, 10)} is what this mistake gives`,
    }));
  });
}
