import { whole } from '../generators/generator.js';
import { at } from '../../foundation/numbers.js';
import type { Random } from '../../foundation/random/random.js';
import type { GeneratedStatement } from './library-statement.js';

/** One of several wordings. */
export const oneOf =
  (...wordings: ((random: Random) => GeneratedStatement)[]) =>
  (random: Random): GeneratedStatement =>
    at(wordings, random.below(wordings.length))(random);

/** A wording that is right or wrong, whatever is drawn in it. */
export const says = (truth: boolean, text: (random: Random) => string) => (random: Random) => ({
  truth,
  text: text(random),
});

/** A text about one whole number. */
export const saidOf = (low: number, high: number, text: (n: number) => string) => (random: Random) =>
  text(whole(random, low, high));
