import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../test/files.js';
import { FEEDBACK, FINAL } from '../material/held-out.js';
import { seededRandom } from '../../foundation/random/random.js';
import type { Roles } from '../../data/table/roles.js';
import { compareWithRelease, type EarlierRelease, type GivenRows } from './compare-releases.js';

const N = 120;
const random = seededRandom(1);
const table = tableOf(
  `id,x,y,z,cm\n${Array.from({ length: N }, (_, i) => {
    const z = (random.unit() * 20).toFixed(3);
    return `c${i},${random.below(100)},${random.below(2) ? 'yes' : 'no'},${z},${(Number(z) / 100).toFixed(5)}`;
  }).join('\n')}\n`,
);
const ROLES: Roles = {
  target: 'y',
  task: 'binary',
  positive: 'yes',
  identifier: 'id',
  group: null,
  time: null,
  weight: null,
  withheld: [],
};
/** The first rows are given, the next so many held out. */
const parts = (from: number, to: number) =>
  Int8Array.from({ length: N }, (_, i) => (i >= from && i < to ? 2 : 0));
const same = Int32Array.from({ length: N }, (_, i) => i);
const divided = (own: Int8Array) =>
  Uint8Array.from(own, (part, i) => (part !== 2 ? 0 : i % 2 ? FEEDBACK : FINAL));
const mine = (own: Int8Array, roles: Partial<Roles> = {}): GivenRows => ({
  table,
  roles: { ...ROLES, ...roles },
  parts: own,
});
const earlier = (own: Int8Array, over: Partial<EarlierRelease> = {}): EarlierRelease => ({
  ...mine(own),
  title: 'Before',
  sameDataSet: true,
  returned: false,
  rows: same,
  division: divided(own),
  ...over,
});
const found = (one: GivenRows, other: EarlierRelease) =>
  compareWithRelease(one, divided(one.parts), other).map(({ id, outcome, measured }) => [
    id,
    outcome,
    measured,
  ]);

describe('an earlier release and this one', () => {
  const held = parts(80, 120);

  it('that hold out the same rows give nothing away', () => {
    expect(found(mine(held), earlier(held))).toEqual([]);
  });

  it('of two random splits give each other’s answers: what one holds out the other trains on', () => {
    const other = parts(40, 100);
    expect(found(mine(held), earlier(other))).toEqual([
      ['held-out-given', 'fails', '20 rows'],
      ['reserve-given', 'fails', '40 rows'],
    ]);
  });

  it('give a target away as a feature of another target, in whichever order they are released', () => {
    const yields = { target: 'z', task: 'regression', positive: null } as const;
    expect(found(mine(held), earlier(held, { roles: { ...ROLES, ...yields } })).map(([id]) => id)).toEqual([
      'held-out-given',
      'reserve-given',
    ]);
    // Not where each withholds the other's.
    const apart = earlier(held, { roles: { ...ROLES, ...yields, withheld: ['y', 'cm'] } });
    expect(found(mine(held, { withheld: ['z', 'cm'] }), apart)).toEqual([]);
  });

  it('give it away in another unit under another name', () => {
    const yields = { target: 'z', task: 'regression', positive: null } as const;
    const other = earlier(held, { roles: { ...ROLES, ...yields, withheld: ['y', 'cm'] } });
    expect(found(mine(held, { withheld: ['z'] }), other)).toEqual([['reserve-given', 'fails', '40 rows']]);
  });

  it('on another data set ask for a reason; rows that are not the same say nothing', () => {
    const other = parts(0, 40);
    expect(found(mine(held), earlier(other, { sameDataSet: false })).map(([, outcome]) => outcome)).toEqual([
      'unsure',
      'unsure',
    ]);
    expect(found(mine(held), earlier(other, { rows: new Int32Array(N).fill(-1) }))).toEqual([]);
  });

  it('that was returned has shown figures of the final rows', () => {
    expect(found(mine(held), earlier(held, { returned: true }))).toEqual([
      ['final-scored', 'unsure', '20 rows'],
    ]);
  });

  it('name some of the rows', () => {
    const [first] = compareWithRelease(mine(held), divided(held), earlier(parts(0, 80)));
    expect(first?.message).toBe('40 held-out rows of 40 are in the pack of “Before” with y');
    expect(first?.examples.map(({ text }) => text)).toEqual(['c80', 'c81', 'c82', 'c83', 'c84']);
  });
});
