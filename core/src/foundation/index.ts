// Errors, checks, numbers, randomness and work in threads: what everything else is built on.
export {
  allHold,
  check,
  cut,
  LONGEST_TEXT,
  MOST_EXAMPLES,
  type Check,
  type Example,
  type Outcome,
} from './check.js';
export { SieveError, type Place } from './errors.js';
export { groupedBy } from './grouped.js';
export { count, counted, indices, shortNumber } from './numbers.js';
export { LARGEST_SEED, seededRandom, shuffle, type Random } from './random/random.js';
export { keyedRandom, PUBLIC_SECRET, SECRET_BYTES, type Secret } from './random/secret.js';
export type { Crew, Helpers, PieceTask, ThreadTask, Work } from './work/work.js';
export { medianOf } from './statistics/median.js';
