import { describe, expect, it } from '@jest/globals';
import { normalAt, normalBelow } from '../../foundation/statistics/distributions.js';
import { indices } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import { classSharesOf } from './class-shares.js';

const labelled = (codes: readonly number[], labels: readonly string[]) => ({
  labels: [...labels],
  codes: Int32Array.from(codes),
});
const names = (n: number) => Array.from({ length: n }, (_, i) => `g${i}`);

describe('class shares of grouped rows', () => {
  it('have the interval of a ratio over groups, worked by hand', () => {
    // Ten groups of two rows: in five both are yes, in five neither. Half of the rows; squares 10 · (±1)².
    const strata = labelled(
      Array.from({ length: 20 }, (_, row) => (row < 10 ? 1 : 0)),
      ['no', 'yes'],
    );
    const groups = labelled(
      Array.from({ length: 20 }, (_, row) => row >> 1),
      names(10),
    );
    const se = Math.sqrt((10 / 9) * 10) / 20;
    const [, yes] = classSharesOf(indices(20), strata, groups);
    expect(yes).toMatchObject({ label: 'yes', rows: 10, share: 0.5 });
    // 2.262 is the 97.5 % point of Student's t with 9 degrees of freedom (tables).
    expect(yes?.low).toBeCloseTo(0.5 - 2.262 * se, 3);
    expect(yes?.high).toBeCloseTo(0.5 + 2.262 * se, 3);
  });

  it('have none below ten groups, and Wilson’s without groups', () => {
    const strata = labelled([0, 1, 1, 0], ['no', 'yes']);
    const [no] = classSharesOf(indices(4), strata, labelled([0, 0, 1, 1], names(2)));
    expect(no).toEqual({ label: 'no', rows: 2, share: 0.5, low: null, high: null });
    // Wilson for 2 of 4 (R 4.2, prop.test(2, 4, correct = FALSE)).
    const [free] = classSharesOf(indices(4), strata, null);
    expect(free?.low).toBeCloseTo(0.15, 3);
    expect(free?.high).toBeCloseTo(0.85, 3);
  });

  it('take a row without a group as a group of its own', () => {
    const strata = labelled(
      Array.from({ length: 12 }, (_, i) => i % 2),
      ['no', 'yes'],
    );
    const alone = labelled(
      Array.from({ length: 12 }, () => -1),
      [],
    );
    expect(classSharesOf(indices(12), strata, alone)[0]?.low).toBeGreaterThan(0.1);
    // No group has the class: Wilson's interval of none of twelve groups.
    const none = labelled(
      Array.from({ length: 12 }, () => 0),
      ['no', 'yes'],
    );
    const [, yes] = classSharesOf(indices(12), none, alone);
    expect(yes).toMatchObject({ share: 0, low: 0 });
    expect(yes?.high).toBeCloseTo(3.8415 / (12 + 3.8415), 3);
  });

  it('cover the true share where rows of a group resemble one another, and Wilson’s do not', () => {
    const random = seededRandom(5, 'coverage');
    const normal = () => normalAt(random.unit());
    const covered = { grouped: 0, free: 0 };
    const tries = 300;
    for (let i = 0; i < tries; i++) {
      const levels = Array.from({ length: 30 }, normal);
      const group = Array.from({ length: 300 }, (_, row) => row % 30);
      const codes = group.map((g) =>
        normalBelow(Math.sqrt(0.4) * (levels[g] ?? 0) + Math.sqrt(0.6) * normal()) < 0.3 ? 1 : 0,
      );
      const strata = labelled(codes, ['no', 'yes']);
      const holds = (groups: ReturnType<typeof labelled> | null) => {
        const [, yes] = classSharesOf(indices(300), strata, groups);
        return (yes?.low ?? 1) <= 0.3 && 0.3 <= (yes?.high ?? 0);
      };
      if (holds(labelled(group, names(30)))) covered.grouped++;
      if (holds(null)) covered.free++;
    }
    expect(covered.grouped / tries).toBeGreaterThan(0.9);
    expect(covered.free / tries).toBeLessThan(0.8);
  });
});
