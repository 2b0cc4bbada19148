import type { Schemas } from '../api/client.js';

type Slip = Schemas['ClassView']['slips'][number];

/** Known mistakes of one question that the same answers have: each of them gives the figure that was typed. */
export type SlipGroup = readonly [Slip, ...Slip[]];

/** Mistakes that cannot be told from one another become one group, but for one that staff named; the commonest stay first. */
export function slipGroups(slips: readonly Slip[]): readonly SlipGroup[] {
  const groups = new Map<string, [Slip, ...Slip[]]>();
  for (const slip of slips) {
    const { question, answers, byHand, id } = slip;
    const place = JSON.stringify([question, byHand ? id : null, [...answers].sort()]);
    const own = groups.get(place);
    if (own) own.push(slip);
    else groups.set(place, [slip]);
  }
  return [...groups.values()];
}
