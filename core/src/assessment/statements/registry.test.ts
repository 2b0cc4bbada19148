import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../test/files.js';
import { at } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import type { Roles } from '../../data/table/roles.js';
import { LIBRARY_STATEMENTS, libraryStatementOf } from './registry.js';

/** Every wording that turns up in many draws, once. */
function variantsOf(key: string): { text: string; truth: boolean }[] {
  const reading = libraryStatementOf(key);
  if (reading.from !== 'chance') throw new TypeError('drawn statements alone');
  const all = new Map<string, boolean>();
  for (let seed = 0; seed < 4000; seed++) {
    const { text, truth } = reading.say(seededRandom(seed, key));
    expect(all.get(text) ?? truth).toBe(truth);
    all.set(text, truth);
  }
  return [...all].map(([text, truth]) => ({ text, truth }));
}
const numbersIn = (text: string) => [...text.matchAll(/\d+(?:\.\d+)?/g)].map(([number]) => Number(number));

describe('a statement of the library', () => {
  it.each(LIBRARY_STATEMENTS.map((reading) => [reading.key, reading] as const))(
    '%s has a source and an objection that it meets',
    (_, { source, objection }) => {
      expect(source.length).toBeGreaterThan(5);
      expect(objection.length).toBeGreaterThan(20);
    },
  );

  it.each(LIBRARY_STATEMENTS.filter(({ from }) => from === 'chance').map(({ key }) => key))(
    '%s is true in some wordings and false in others',
    (key) => {
      expect(new Set(variantsOf(key).map(({ truth }) => truth)).size).toBe(2);
    },
  );

  it('on variance inflation is true to the digit shown or wrong by more, in every variant', () => {
    for (const { text, truth } of variantsOf('inflation')) {
      const [r2 = 0, said = 0] = numbersIn(text.replace('R²', 'R'));
      const off = Math.abs(1 / (1 - r2) - said);
      if (truth) expect(off).toBeLessThanOrEqual(0.05 + 1e-9);
      else expect(off).toBeGreaterThan(0.3);
    }
  });

  it('on the fits of a grid counts every pair in every fold', () => {
    for (const { text, truth } of variantsOf('fits')) {
      const [a = 0, b = 0, k = 0, said = 0] = numbersIn(text);
      expect(said === a * b * k).toBe(truth);
    }
  });

  it('about the data is true by them, with room to the limit', () => {
    const rows = Array.from({ length: 50 }, (_, i) => `${i},${i % 3 === 0 ? 'no' : 'yes'}`);
    const table = tableOf(`x,y\n${rows.join('\n')}\n`);
    const roles: Roles = {
      target: 'y',
      task: 'binary',
      positive: 'yes',
      identifier: null,
      group: null,
      time: null,
      weight: null,
      withheld: [],
    };
    const reading = libraryStatementOf('most-frequent');
    if (reading.from !== 'data') throw new TypeError('about the data');
    for (let seed = 0; seed < 40; seed++) {
      const { text, truth } = reading.compute(
        { table, validation: null, all: table, roles },
        seededRandom(seed),
      );
      const limit = at(numbersIn(text), 0);
      // 33 of 50 rows.
      expect(truth).toBe(66 > limit);
      expect(Math.abs(66 - limit)).toBeGreaterThanOrEqual(2);
    }
  });
});
