import { shortNumber } from '../../../foundation/numbers.js';
import type { Plan } from '../../../data/sentence/sentence.js';
import { asksNames, type Asked, type AskedNumber } from '../../generators/generator.js';
import { accepts } from '../../generators/tolerance.js';
import type { Typed } from '../../generators/typed.js';
import { claimedSlips } from './claimed-slips.js';
import type { SlipIn } from '../contract/kind.js';
import type { Said } from './judge-values.js';

/** What a figure is given for another of the same question, whose values are few: the figure, and the other. */
const CONFUSED: Readonly<Record<string, { readonly for: string; readonly id: string }>> = {
  'simplest depth within one standard error': { for: 'best depth', id: 'best-for-one-standard-error' },
};

/** The slips in the numbers of an answer, each where it was typed. */
export function slipsInValues(
  asked: readonly Asked[],
  said: ReadonlyMap<string, Said>,
  tolerance: Plan,
): SlipIn[] {
  const numbers = asked.flatMap((one) => {
    const own = said.get(one.key);
    return own && 'typed' in own && !asksNames(one) ? [{ one, typed: own.typed }] : [];
  });
  return numbers.flatMap(({ one, typed }) => {
    if (isRight(one, typed, tolerance)) return [];
    const ids = claimedSlips(one, typed);
    const confused = CONFUSED[one.name];
    const other = confused && numbers.find(({ one: { name } }) => name === confused.for);
    // Of few settings any would fit by accident: what was found right elsewhere is given here on purpose.
    if (confused && other && typed.value === other.typed.value && isRight(other.one, other.typed, tolerance))
      ids.push(confused.id);
    return [...new Set(ids)].map((id) => ({
      id,
      field: one.key,
      evidence: `${shortNumber(typed.value, 10)} is what this mistake gives`,
    }));
  });
}

function isRight({ figure, between }: AskedNumber, typed: Typed, tolerance: Plan): boolean {
  if (between) return typed.value >= between[0] && typed.value <= between[1];
  return figure.value !== null && accepts(tolerance, figure.value, typed).right;
}
