import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../test/files.js';
import { seededRandom } from '../../foundation/random/random.js';
import type { Roles } from '../../data/table/roles.js';
import { libraryStatementOf } from './registry.js';

const roles: Roles = {
  ...{ target: 'y', task: 'regression', positive: null, identifier: null },
  ...{ group: null, time: null, weight: null, withheld: [] },
};
const said = (key: string, text: string, seed: number, of = roles) => {
  const statement = libraryStatementOf(key);
  if (statement.from !== 'data') throw new TypeError('about the data');
  const table = tableOf(text);
  return statement.compute({ table, validation: null, all: table, roles: of }, seededRandom(seed));
};
const seeds = Array.from({ length: 40 }, (_, seed) => seed);

describe('a coefficient beside its unit', () => {
  // y = 5 km + 0.02 m exactly: km runs to 1 in steps of 0.01, m to 5,000, so that m changes y by far more.
  const rows = Array.from({ length: 60 }, (_, i) => {
    const [km, m] = [(i % 7) / 100, ((i * 37) % 60) * 85];
    return `${5 * km + 0.02 * m},${km},${m}`;
  });
  const text = `y,km,m\n${rows.join('\n')}\n`;

  it('is said both ways, and the truth is that of one standard deviation', () => {
    const all = seeds.map((seed) => said('coefficient-and-unit', text, seed));
    for (const one of all) {
      expect(one.text).toContain('the coefficient of “km” is larger in size than that of “m”');
      expect(one.truth).toBe(one.text.includes('but not the change'));
    }
    expect(new Set(all.map(({ truth }) => truth)).size).toBe(2);
  });

  it('needs two numeric features whose effects are clearly apart, and a target of numbers', () => {
    const alike = `y,a,b\n${Array.from({ length: 30 }, (_, i) => `${(i % 5) + ((i * 7) % 5)},${i % 5},${(i * 7) % 5}`).join('\n')}\n`;
    expect(() => said('coefficient-and-unit', alike, 1)).toThrow('clearly apart');
    expect(() => said('coefficient-and-unit', 'y,a\n1,2\n2,3\n', 1)).toThrow('two numeric features');
  });
});

describe('columns of noughts and ones', () => {
  const text = `y,region,kind\n${Array.from({ length: 24 }, (_, i) => `${i},${['north', 'south', 'hill', 'coast'][i % 4]},${'ab'[i % 2]}`).join('\n')}\n`;

  it('are one fewer than the values of a column of more than two classes', () => {
    const all = seeds.map((seed) => said('columns-of-levels', text, seed));
    for (const { text: words, truth } of all) {
      expect(words).toContain('“region” has 4 different values');
      expect(words.includes('takes 3 columns')).toBe(truth);
    }
    expect(new Set(all.map(({ truth }) => truth)).size).toBe(2);
  });

  it('need such a column', () => {
    expect(() => said('columns-of-levels', 'y,kind\n1,a\n2,b\n3,a\n', 1)).toThrow('three to 30 classes');
  });
});
