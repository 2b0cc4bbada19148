import { SieveError } from '../../../foundation/errors.js';
import { at, quantile } from '../../../foundation/numbers.js';
import { seededRandom } from '../../../foundation/random/random.js';
import { largestShareDifference, sizesOf, greatest } from './assignment-figures.js';
import type { Bounds } from './key.js';
import { type AssignmentPlan, honestAssignment, ownAssignment } from './assignment-honest.js';

/** Honest assignments that are simulated before a question is released: 200, fewer from 20,000 rows on, to save time. */
const honestAssignments = (rows: number): number => Math.min(200, Math.max(40, Math.round(4_000_000 / rows)));

/** How the program's own splitter, and random honest assignments, come through the checks of a question. */
export interface HonestRate {
  /** How many random ones were tried. */
  readonly tried: number;
  /** Of those of the own splitter under a few seeds. */
  readonly own: number;
  /** Of random honest ones. */
  readonly random: number;
}

/** Seeds under which the own splitter is tried. */
const OWN_ASSIGNMENTS = 5;

/**
 * How often honest assignments earn all marks.
 *
 * @throws SieveError `unsatisfiable` where the own splitter never does, or fewer than half of the random ones do
 */
export function honestRate(plan: AssignmentPlan, passes: (assigned: Int32Array) => boolean): HonestRate {
  const random = seededRandom(1, 'honest');
  const rateOf = (n: number, make: typeof ownAssignment) => {
    let passed = 0;
    for (let i = 0; i < n; i++) if (passes(make(plan, random))) passed++;
    return passed / n;
  };
  const tried = honestAssignments(plan.rows);
  const rate = {
    tried,
    own: rateOf(OWN_ASSIGNMENTS, ownAssignment),
    random: rateOf(tried, honestAssignment),
  };
  if (rate.own === 0 || rate.random < 0.5)
    throw new SieveError(
      'unsatisfiable',
      `Honest work would be refused: of ${tried} random assignments as this question asks for them ${percentOf(rate.random)} pass its checks, and of those of this program's own splitter ${percentOf(rate.own)}. Allow larger differences, or ask for less.`,
      { field: 'values' },
    );
  return rate;
}

const percentOf = (share: number) => `${Math.round(100 * share)} %`;

/** The honest rate as a sentence for staff. */
export const rateWords = ({ tried, own, random }: HonestRate): string =>
  `of ${tried} random honest assignments ${percentOf(random)} pass all checks, of this program's own ${percentOf(own)}`;

/** Shares of random assignments that keep to what sizes, and class shares, may be off by. */
const SIZES_LEVEL = 0.95;
const SHARES_LEVEL = 0.99;

/**
 * What an assignment may be off by. Programs round each class by itself (caret's createDataPartition, rsample), so sizes
 * may be off by as many rows as there are classes. Whole units can be no nearer than the largest of them, or than random
 * assignments of whole units come: sizes to the 95 % point, shares to the 99 % point of them (scikit-learn's
 * StratifiedGroupKFold is no nearer). Repeated times may be cut or kept together.
 */
export function boundsOf(plan: AssignmentPlan): Bounds {
  const { rows: n, shares, units, strata, time } = plan;
  let rows = strata && !strata.values ? Math.max(1, strata.labels.length) : 1;
  if (time) rows = Math.max(rows, greatest(sizesOf(time, 1 + greatest(time))));
  let share = 0;
  // Of small samples 1; a tenth of a fold, up to five rows, where a program stratifies though nobody asked it to.
  let range = Math.max(rows, Math.min(5, Math.ceil(n / shares.length / 10)));
  if (units) {
    const random = seededRandom(0, 'bounds');
    const largest = greatest(sizesOf(units, 1 + greatest(units)));
    const off: number[] = [];
    const ranges: number[] = [];
    const shareOff: number[] = [];
    for (let i = 0; i < honestAssignments(n); i++) {
      const assigned = honestAssignment(plan, random);
      const sizes = sizesOf(assigned, shares.length);
      off.push(Math.max(...sizes.map((size, part) => Math.abs(size - at(shares, part) * n))));
      ranges.push(Math.max(...sizes) - Math.min(...sizes));
      if (strata) shareOff.push(largestShareDifference(assigned, shares.length, strata));
    }
    const point = (values: number[], level: number) =>
      quantile(
        values.sort((a, b) => a - b),
        level,
      );
    rows = Math.max(rows, largest, point(off, SIZES_LEVEL));
    range = Math.max(range, largest, point(ranges, SIZES_LEVEL));
    if (strata) share = point(shareOff, SHARES_LEVEL);
  }
  return { rows: Math.floor(rows + 1e-9), range: Math.floor(range + 1e-9), share };
}
