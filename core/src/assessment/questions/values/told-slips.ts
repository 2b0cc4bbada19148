import type { Plan } from '../../../data/sentence/sentence.js';
import { generate } from '../../generators/generate.js';
import { asksNames, type AskedNumber } from '../../generators/generator.js';
import { NOBODY } from '../../generators/respondent.js';
import type { Typed } from '../../generators/typed.js';
import { VALUE_SLIPS } from '../../slips/values/registry.js';
import { claimedSlips } from './claimed-slips.js';

/** How often a mistake in a figure would be named. */
export interface ToldSlip {
  readonly title: string;
  /** Share of some draws in which it is named, of those in which it gives another number than the key. */
  readonly share: number;
  /** Mistakes that give the same number in all of these. */
  readonly beside: readonly string[];
}

/** Draws that are looked at. */
const DRAWS = 12;

const titleOf = (id: string): string => VALUE_SLIPS.find((slip) => slip.id === id)?.title ?? id;

/** A number as it is typed with so many decimals; a whole number in full. */
function typedWith(value: number, key: number, decimals: number): Typed {
  const places = Number.isInteger(key) && Number.isInteger(value) ? 0 : decimals;
  return { value: Number(value.toFixed(places)), decimals: places, unit: 10 ** -places };
}

/**
 * Which mistakes a question that is drawn can tell where figures are typed with so many decimals, the surest first.
 *
 * @throws SieveError where nothing can be drawn
 */
export function toldSlips(figures: Plan, question: string, decimals: number): ToldSlip[] {
  const found = new Map<string, { made: number; named: number; beside: Set<string> | null }>();
  for (let draw = 0; draw < DRAWS; draw++) {
    const { asked } = generate(figures, { ...NOBODY, question, id: `told ${draw}` });
    for (const one of asked) if (!asksNames(one)) countIn(one, decimals, found);
  }
  return [...found]
    .map(([id, { made, named, beside }]) => ({
      ...{ title: titleOf(id), share: named / made, beside: [...(beside ?? [])].map(titleOf) },
    }))
    .sort((a, b) => b.share - a.share || (a.title < b.title ? -1 : 1));
}

function countIn(
  one: AskedNumber,
  decimals: number,
  found: Map<string, { made: number; named: number; beside: Set<string> | null }>,
): void {
  const key = one.figure.value ?? Number.NaN;
  for (const [id, values] of Object.entries(one.mistakes ?? {}))
    for (const value of values) {
      const typed = typedWith(value, key, decimals);
      if (Math.abs(typed.value - key) <= typed.unit) continue;
      const own = found.get(id) ?? { made: 0, named: 0, beside: null };
      found.set(id, own);
      own.made++;
      const claimed = claimedSlips(one, typed);
      if (!claimed.includes(id)) continue;
      own.named++;
      const others = claimed.filter((other) => other !== id);
      own.beside = new Set(own.beside ? others.filter((other) => own.beside?.has(other)) : others);
    }
}
