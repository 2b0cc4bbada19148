import type { Plan } from '../../../data/sentence/sentence.js';
import { generate } from '../../generators/generate.js';
import { asksNames, type AskedNumber } from '../../generators/generator.js';
import { NOBODY } from '../../generators/respondent.js';
import type { Typed } from '../../generators/typed.js';
import { VALUE_SLIPS } from '../../slips/values/registry.js';
import { slipsInValues } from './slips-in-values.js';

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

/** How often a mistake was made and named, and what was named beside it each time. */
interface Count {
  made: number;
  named: number;
  beside: Set<string> | null;
}

/**
 * Which mistakes a question that is drawn can tell where figures are typed with so many decimals, the surest first.
 *
 * @throws SieveError where nothing can be drawn
 */
export function toldSlips(figures: Plan, question: string, decimals: number): ToldSlip[] {
  const found = new Map<string, Count>();
  for (let draw = 0; draw < DRAWS; draw++) {
    const { asked } = generate(figures, { ...NOBODY, question, id: `told ${draw}` });
    const numbers = asked.flatMap((one) => (asksNames(one) ? [] : [one]));
    for (const one of numbers) countIn(one, numbers, decimals, found);
  }
  return [...found]
    .map(([id, { made, named, beside }]) => ({
      ...{ title: titleOf(id), share: named / made, beside: [...(beside ?? [])].map(titleOf) },
    }))
    .sort((a, b) => b.share - a.share || (a.title < b.title ? -1 : 1));
}

/** Makes each mistake in one figure, beside others that are right, and counts what is named. */
function countIn(
  one: AskedNumber,
  numbers: readonly AskedNumber[],
  decimals: number,
  found: Map<string, Count>,
): void {
  const typedAs = (value: number, { figure }: AskedNumber) => typedWith(value, figure.value ?? NaN, decimals);
  const right = numbers.map(
    (other) => [other.key, { typed: typedAs(other.figure.value ?? NaN, other) }] as const,
  );
  for (const [id, values] of Object.entries(one.mistakes ?? {}))
    for (const value of values) {
      const typed = typedAs(value, one);
      if (Math.abs(typed.value - (one.figure.value ?? NaN)) <= typed.unit / 2) continue;
      const own = found.get(id) ?? { made: 0, named: 0, beside: null };
      found.set(id, own);
      own.made++;
      const named = slipsInValues(numbers, new Map([...right, [one.key, { typed }]]), [one.key]).map(
        (slip) => slip.id,
      );
      if (!named.includes(id)) continue;
      own.named++;
      const others = named.filter((other) => other !== id);
      own.beside = new Set(own.beside ? others.filter((other) => own.beside?.has(other)) : others);
    }
}
