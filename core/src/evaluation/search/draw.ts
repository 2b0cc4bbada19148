import { seededRandom, type Random } from '../../foundation/random/random.js';
import type { ModelFamily } from '../../models/contract/family.js';

/** Settings of a model by their keys. */
export type Setting = Readonly<Record<string, number>>;

/** A setting that is varied, and values between whose least and largest it is drawn. */
interface Range {
  readonly key: string;
  readonly settings: readonly number[];
}

/** From this ratio of largest to least on, values are drawn evenly over their orders of magnitude. */
const WIDE = 20;
/** Draws in a row that give nothing new, after which the settings that there are count as exhausted. */
const IN_VAIN = 100;

/**
 * Draws settings for a search, each different. The first is the one that the model is asked for with, so that a search shows
 * what tuning brings; the others lie between the least and the largest value of each varied setting. Values that span
 * more than 20 times their least are drawn evenly by their logarithm, a nought among them as often as its share of the values;
 * whole numbers stay whole, others have three digits.
 *
 * @param vary each with at least one value
 * @param begun what the model is asked for with
 * @returns fewer than `count` where there are not so many different ones
 */
export function drawSettings(
  family: ModelFamily,
  vary: readonly Range[],
  begun: Setting,
  count: number,
  seed: number,
): Setting[] {
  const random = seededRandom(seed, 'search');
  const first = Object.fromEntries(vary.map(({ key }) => [key, begun[key] ?? 0]));
  const drawn = [first];
  const known = new Set([JSON.stringify(first)]);
  for (let vain = 0; drawn.length < count && vain < IN_VAIN;) {
    const next = Object.fromEntries(vary.map((one) => [one.key, drawOne(family, one, random)]));
    const text = JSON.stringify(next);
    if (known.has(text)) vain++;
    else {
      vain = 0;
      known.add(text);
      drawn.push(next);
    }
  }
  return drawn;
}

function drawOne(family: ModelFamily, { key, settings }: Range, random: Random): number {
  const parameter = family.parameters[key];
  const isWhole = parameter?.type === 'number' && parameter.step === 1;
  const noughts = settings.filter((value) => value === 0).length;
  const positive = settings.filter((value) => value > 0);
  const [least, largest] = [Math.min(...positive), Math.max(...positive)];
  const isWide = positive.length > 0 && !settings.some((value) => value < 0) && largest / least >= WIDE;
  if (isWide) {
    if (random.unit() < noughts / settings.length) return 0;
    return rounded(least * (largest / least) ** random.unit(), isWhole);
  }
  const [low, high] = [Math.min(...settings), Math.max(...settings)];
  if (isWhole) return low + random.below(high - low + 1);
  return rounded(low + (high - low) * random.unit(), false);
}

const rounded = (value: number, isWhole: boolean): number =>
  isWhole ? Math.round(value) : Number(value.toPrecision(3));
