import { check, type Check } from '../../../foundation/check.js';
import { count, counted } from '../../../foundation/numbers.js';
import { groupsCheck, NO_BOUNDS, strataCheck } from '../assignments/assignment-checks.js';
import { sizesOf } from '../assignments/assignment-figures.js';
import { type FoldsValues } from './folds-sentence.js';
import type { Material } from '../../material/material.js';
import type { Bounds, RowsKey } from '../assignments/key.js';

/** Points by which shares of a column may differ between folds: common practice. */
export const SHARES_WITHIN = 2;
export const foldNames = (k: number): string[] => Array.from({ length: k }, (_, i) => `fold ${i + 1}`);

export function checksOf(assigned: Int32Array, k: number, key: RowsKey): Check[] {
  const { strata, groups, bounds = NO_BOUNDS } = key;
  const sizes = sizesCheck(assigned, k, key);
  return [
    sizes,
    ...(strata ? [strataIn(assigned, k, strata, bounds, sizes)] : []),
    ...(groups ? [groupsCheck(assigned, groups)] : []),
  ];
}

/** Shares in folds of unequal size are those of another procedure: they are not judged. */
const strataIn = (
  assigned: Int32Array,
  k: number,
  strata: NonNullable<RowsKey['strata']>,
  bounds: Bounds,
  sizes: Check,
): Check =>
  sizes.outcome === 'fails'
    ? check('strata', 'unsure', `Shares of ${strata.column} are compared in folds of equal size alone`)
    : strataCheck(assigned, foldNames(k), strata, SHARES_WITHIN, bounds);

/** Sizes that differ by at most a row, as many rows as there are classes, or what whole groups allow. */
function sizesCheck(assigned: Int32Array, k: number, { bounds = NO_BOUNDS }: RowsKey): Check {
  const sizes = sizesOf(assigned, k);
  const [low, high] = [Math.min(...sizes), Math.max(...sizes)];
  const holds = high - low <= bounds.range && low > 0;
  return check(
    'sizes',
    holds ? 'holds' : 'fails',
    holds ? `${k} folds of equal size` : 'Folds are not of equal size',
    {
      measured: `${count(low)} to ${counted(high, 'row')}`,
      expected: `sizes that differ by at most ${counted(bounds.range, 'row')}`,
    },
  );
}

/** Means over folds of the runs that judge by the same metric. */
export const referencesOf = (
  { curves }: Material,
  { metric, reports }: FoldsValues,
): RowsKey['references'] =>
  reports === 'nothing'
    ? []
    : Object.values(curves)
        .filter((curve) => curve.metric === metric)
        .flatMap(({ points }) =>
          points.flatMap(({ mean, se }) => (mean === null ? [] : [{ mean, se: se ?? 0 }])),
        );
