import type { AskedNumber } from '../../generators/generator.js';
import type { Typed } from '../../generators/typed.js';

/** What a wrong answer for another reason may be taken for a slip of its figure, in all. */
const MOST_CHANCE = 0.01;
/** What is lost on the way where intermediate figures are rounded to six digits, as a share. */
const EDGE = 1e-5;
/** How near the key most wrong answers lie, as a share of its size: slips of the pen, other settings, other rows. */
const NEAR = 0.1;

/** Whether a number fits what was typed, to the digits typed. */
const fits = (value: number, typed: Typed): boolean =>
  Math.abs(typed.value - value) <= (typed.unit / 2) * (1 + 1e-9) + EDGE * Math.abs(value);

/** The spread of wrong answers about a key: of shares the whole range, of others their size. */
const sizeOf = (key: number): number => (Math.abs(key) <= 1 ? 1 : Math.abs(key));

/**
 * How likely a wrong answer for another reason is to fit a value: half of such answers are taken to lie near the key,
 * half evenly about it, so that a slip close to the key needs more digits than one far off.
 */
function chanceOf(value: number, key: number, unit: number): number {
  const size = sizeOf(key);
  const width = Math.max(unit, 2 * EDGE * Math.abs(value));
  const near = NEAR * size;
  const off = value - key;
  // Tails as of a Cauchy distribution: answers off by a factor of a hundred do occur.
  const close = near / (Math.PI * (off * off + near * near));
  const even = Math.abs(off) <= size ? 1 / (2 * size) : 0;
  return (width * (close + even)) / 2;
}

/**
 * The slips by which a wrong number is explained, all of them where several give the same number: nothing where the key
 * fits what was typed, and nothing of those whose chance of fitting by accident is too large at the digits typed.
 */
export function claimedSlips({ figure, mistakes = {} }: AskedNumber, typed: Typed): string[] {
  const key = figure.value;
  if (key === null || fits(key, typed)) return [];
  const candidates = Object.entries(mistakes)
    .flatMap(([id, values]) => values.map((value) => ({ id, value })))
    // A mistake that gives the key to these digits cannot be told from no mistake.
    .filter(({ value }) => Math.abs(value - key) > Math.max(typed.unit, 2 * EDGE * Math.abs(value)))
    .map((one) => ({ ...one, chance: chanceOf(one.value, key, typed.unit) }))
    .sort((a, b) => a.chance - b.chance);
  const claimed = new Set<string>();
  let chance = 0;
  let last = Infinity;
  for (const { id, value, chance: own } of candidates) {
    // Mistakes that give the same number share their chance.
    if (Math.abs(value - last) > EDGE * Math.abs(value)) chance += own;
    last = value;
    if (chance > MOST_CHANCE) break;
    if (fits(value, typed)) claimed.add(id);
  }
  return [...claimed];
}
