import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../../test/files.js';
import type { Roles } from '../../../data/table/roles.js';
import { at } from '../../../foundation/numbers.js';
import { seededRandom } from '../../../foundation/random/random.js';
import { rangeWords } from '../../questions/values/judge-values.js';
import { numbersIn } from '../fixture-of-tests.js';
import { bestPenalty } from './best-penalty.js';

const ROLES: Roles = {
  target: 'y',
  task: 'regression',
  positive: null,
  identifier: null,
  group: null,
  time: null,
  weight: null,
  withheld: [],
};

/** Three columns and a target that is their sum times a slope, with noise. */
function penalties(slope: number, asked: readonly string[], rows = 120): (readonly [number, number])[] {
  const random = seededRandom(5);
  const noise = () => random.unit() + random.unit() + random.unit() - 1.5;
  const lines = Array.from({ length: rows }, () => {
    const x = [noise(), noise(), noise()];
    return [...x, slope * (at(x, 0) + at(x, 1) + at(x, 2)) + noise()].join(',');
  });
  const values = { model: 'lasso penalty=1', features: [], metric: 'rmse', k: 5, distance: 0.5, asked };
  const table = tableOf(`a,b,c,y\n${lines.join('\n')}\n`);
  if (bestPenalty.from !== 'data') throw new Error('drawn');
  const item = bestPenalty.compute(values, { table, validation: null, all: table, roles: ROLES });
  return numbersIn(item.asked).map(({ between }) => between ?? [Number.NaN, Number.NaN]);
}

const BEST = 'best penalty';
const LARGEST = 'largest penalty within one standard error';

/** How often other programs' penalties are right over many tables is in docs/verdicts.md. */
describe('penalties that are right', () => {
  it('go down to none where none is as good as the best', () => {
    const [[least, most] = [], [leastOfLargest] = []] = penalties(3, [BEST, LARGEST]);
    expect(least).toBe(0);
    expect(most).toBeLessThan(1);
    expect(leastOfLargest).toBeGreaterThan(0);
  });

  it('go up without end where the column of means is as good', () => {
    const [range = [0, 0]] = penalties(0, [LARGEST]);
    expect(range[1]).toBe(Number.MAX_VALUE);
    expect(rangeWords(range)).toMatch(/^[\d.]+ or more$/);
    expect(rangeWords([0, 2])).toBe('up to 2');
  });

  it('are not asked for where every one would be right', () => {
    // In so many rows three columns of noise cost next to nothing, whatever the penalty.
    expect(() => penalties(0, [BEST], 20_000)).toThrow(/every answer would be right/);
  });
});
