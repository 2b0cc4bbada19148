import { describe, expect, it } from '@jest/globals';
import { diabetes, tableOf } from '../../../test/files.js';
import { request } from '../../../test/models.js';
import { indices } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import { metricNamed } from '../../metrics/registry.js';
import { selectFeatures, selectionFits } from './selection.js';

const foldsOf = (rows: number) =>
  Array.from({ length: 5 }, (_, fold) => ({
    training: indices(rows).filter((row) => row % 5 !== fold),
    test: indices(rows).filter((row) => row % 5 === fold),
  }));

/** A number made of two columns, among others of noise. */
function twoThatCount(rows: number, noise: number, seed: number) {
  const random = seededRandom(seed);
  const names = [...Array.from({ length: noise }, (_, c) => `n${c}`), 'a', 'b'];
  const lines = Array.from({ length: rows }, () => {
    const values = names.map(() => random.unit());
    const y = 3 * (values[noise] ?? 0) - 2 * (values[noise + 1] ?? 0) + 0.5 * random.unit();
    return `${values.join(',')},${y}`;
  });
  const table = tableOf(`${names.join(',')},y\n${lines.join('\n')}\n`);
  return request(table, 'y', 'regression', 'linear');
}

const mse = metricNamed('mse');

describe('a selection of features, step by step', () => {
  it.each(['forward', 'backward'] as const)('%s finds the two that count among six of noise', (way) => {
    const own = twoThatCount(150, 6, 3);
    const found = selectFeatures(own, foldsOf(150), { way, most: 8 }, mse);
    expect(found.steps.map(({ count }) => count)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    expect([...(found.steps[1]?.features ?? [])].sort()).toEqual(['a', 'b']);
    expect(found.simplest).toBe(2);
    expect(found.kept.slice(0, 2)).toEqual(
      expect.arrayContaining([
        { column: 'a', folds: 5 },
        { column: 'b', folds: 5 },
      ]),
    );
    const [one, two] = found.steps;
    expect(two?.inside.mean ?? NaN).toBeLessThan((one?.inside.mean ?? NaN) / 2);
  });

  it('on diabetes takes bmi and s5 first, as the path of the lasso does (Efron and others, Least angle regression, 2004, figure 1)', () => {
    const table = diabetes();
    const own = request(table, 'target', 'regression', 'linear');
    const found = selectFeatures(own, foldsOf(table.rowCount), { way: 'forward', most: 3 }, mse);
    expect([...(found.steps[1]?.features ?? [])].sort()).toEqual(['bmi', 's5']);
  });

  it('of noise alone shows a better figure outside the folds than inside, where it is one of guessing', () => {
    const figures = [1, 2, 3, 4, 5, 6].map((seed) => {
      const random = seededRandom(seed, 'noise');
      const names = Array.from({ length: 15 }, (_, c) => `n${c}`);
      const lines = Array.from(
        { length: 60 },
        () => `${names.map(() => random.unit()).join(',')},${random.unit() < 0.5 ? 'yes' : 'no'}`,
      );
      const table = tableOf(`${names.join(',')},won\n${lines.join('\n')}\n`);
      const own = request(table, 'won', 'binary', 'naive-bayes');
      const { steps } = selectFeatures(
        own,
        foldsOf(60),
        { way: 'forward', most: 4 },
        metricNamed('accuracy'),
      );
      return { inside: steps[3]?.inside.mean ?? NaN, outside: steps[3]?.outside.mean ?? NaN };
    });
    const mean = (of: 'inside' | 'outside') =>
      figures.reduce((sum, one) => sum + one[of], 0) / figures.length;
    expect(mean('outside')).toBeGreaterThan(mean('inside') + 0.08);
    expect(Math.abs(mean('inside') - 0.5)).toBeLessThan(0.09);
  });

  it('says beforehand how many models it fits, and refuses too many', () => {
    // Forward to 2 of 4 in 5 folds: 4 + 3 choices, three folds inside, six times; then two sizes, five folds, both ways.
    expect(selectionFits(4, 5, 2, 'forward')).toBe(7 * 3 * 6 + 20);
    expect(selectionFits(3, 5, 1, 'backward')).toBe((3 + 2) * 3 * 6 + 30);
    const own = twoThatCount(40, 60, 1);
    expect(() => selectFeatures(own, foldsOf(40), { way: 'backward', most: 1 }, mse)).toThrow(
      'more than 4000',
    );
    const [first = ''] = own.features;
    expect(() =>
      selectFeatures({ ...own, features: [first] }, foldsOf(40), { way: 'forward', most: 1 }, mse),
    ).toThrow('at least two features');
  });

  it('does not take what only names groups, where rows of a group stay together inside the folds too', () => {
    const random = seededRandom(5);
    // Ten groups of twelve rows, each with a level of its own; the number goes with the group, and a little with x.
    const lines = Array.from({ length: 120 }, (_, i) => {
      const group = i % 10;
      const x = random.unit();
      return `g${group},${group},${x},${0.6 * ((group * 7) % 10) + 4 * x + random.unit()}`;
    });
    const table = tableOf(`site,name,x,y\n${lines.join('\n')}\n`);
    const own = request(table, 'y', 'regression', 'tree', { rows_per_leaf: 5 }, { features: ['name', 'x'] });
    const folds = Array.from({ length: 5 }, (_, fold) => ({
      training: indices(120).filter((row) => (row % 10) % 5 !== fold),
      test: indices(120).filter((row) => (row % 10) % 5 === fold),
    }));
    const first = (group: string | null) =>
      selectFeatures({ ...own, group }, folds, { way: 'forward', most: 1 }, mse).steps[0]?.features;
    expect(first(null)).toEqual(['name']);
    expect(first('site')).toEqual(['x']);
  });
});
