import { describe, expect, it } from '@jest/globals';
import { iris, tableOf } from '../../test/files.js';
import { fit, request } from '../../test/models.js';
import { at, indices } from '../foundation/numbers.js';
import type { Table } from '../data/table/table.js';
import { fitModel, judgedBy, predictRows } from './fitted.js';
import { targetOf } from './prepared/target.js';
import { MODEL_FAMILIES } from './registry.js';

const lines = (n: number, line: (i: number) => string) =>
  Array.from({ length: n }, (_, i) => line(i)).join('\n');
const finite = (table: Table, kind: string, target: string, task: 'binary' | 'regression') => {
  const fitted = fit(table, target, task, kind);
  const out = predictRows(fitted, table, indices(table.rowCount));
  expect(out.every((column) => column.every(Number.isFinite))).toBe(true);
  return fitted;
};

describe('what is hard on a model is a clear result', () => {
  it('classes that can be told apart perfectly: said, not looped on, and no standard errors', () => {
    const table = tableOf(`x,z,won\n${lines(40, (i) => `${i},${(i * 7) % 5},${i < 20 ? 'no' : 'yes'}`)}\n`);
    const { description, warnings } = finite(table, 'logistic', 'won', 'binary');
    expect(warnings[0]).toContain('separation');
    expect(description.coefficients?.every(({ se, p }) => se === null && p === null)).toBe(true);
    expect(description.coefficients?.every(({ estimate }) => Number.isFinite(estimate))).toBe(true);
  });

  it('some rows that can be told apart by a level (quasi-complete separation) are said as well', () => {
    const table = tableOf(
      `x,level,won\n${lines(60, (i) => `${(i * 13) % 17},${'ab'[i % 2]},${i % 2 === 0 ? 'no' : i % 3 ? 'yes' : 'no'}`)}\n`,
    );
    const { warnings } = finite(table, 'logistic', 'won', 'binary');
    expect(warnings[0]).toContain('separation');
  });

  it('collinear and constant columns have no coefficient of their own', () => {
    const table = tableOf(
      `x,twice,one,z,y\n${lines(30, (i) => `${i},${2 * i + 1},7,${(i * 11) % 13},${i + ((i * 5) % 3)}`)}\n`,
    );
    const { description, warnings } = finite(table, 'linear', 'y', 'regression');
    const own = (term: string) => description.coefficients?.find((one) => one.term === term);
    expect(own('twice')).toMatchObject({ estimate: null, se: null });
    expect(own('one')).toMatchObject({ estimate: null });
    expect(own('x')?.p).toBeLessThan(0.001);
    expect(warnings[0]).toContain('twice, one: no coefficient of their own');
  });

  it('more columns than rows: an exact fit, whose errors cannot be estimated', () => {
    const names = Array.from({ length: 12 }, (_, c) => `x${c}`);
    const table = tableOf(
      `${names.join(',')},y\n${lines(8, (i) => `${names.map((_, c) => (i * 7 + c * c * 3 + i * c) % 19).join(',')},${i % 5}`)}\n`,
    );
    const { description, warnings } = finite(table, 'linear', 'y', 'regression');
    expect(warnings.join(' ')).toContain('its errors cannot be estimated');
    expect(description.coefficients?.every(({ se }) => se === null)).toBe(true);
    for (const kind of ['ridge', 'lasso', 'elastic-net', 'nearest', 'tree'])
      finite(table, kind, 'y', 'regression');
  });

  it.each(['logistic', 'lasso', 'ridge'])('one class alone: %s refuses it by name', (kind) => {
    const table = tableOf(`x,won\n${lines(10, (i) => `${i},${i < 5 ? 'no' : 'yes'}`)}\n`);
    const asked = request(table, 'won', 'binary', kind, {}, { rows: Int32Array.of(0, 1, 2, 3) });
    expect(() => fitModel(asked)).toThrow('of one class');
  });

  it.each(['most-frequent', 'class-shares', 'nearest', 'naive-bayes', 'tree', 'linear'])(
    'one class alone: %s predicts it for every row',
    (kind) => {
      const table = tableOf(`x,won\n${lines(10, (i) => `${i},${i < 5 ? 'no' : 'yes'}`)}\n`);
      const fitted = fitModel(request(table, 'won', 'binary', kind, {}, { rows: Int32Array.of(0, 1, 2, 3) }));
      const target = targetOf(table, { target: 'won', task: 'binary', positive: null });
      const judged = judgedBy(target, predictRows(fitted, table, indices(10)));
      expect(Array.from(judged.data.predicted)).toEqual(new Array(10).fill(0));
    },
  );

  it.each(['logistic', 'naive-bayes', 'tree', 'nearest'])(
    'a class seen only among other rows: %s gives it no chance and says so',
    (kind) => {
      const flowers = iris();
      const fitted = fitModel(
        request(
          flowers,
          'target',
          'multiclass',
          kind,
          {},
          { rows: indices(100).filter((row) => row % 3 > 0) },
        ),
      );
      const shares = predictRows(fitted, flowers, indices(150));
      expect(shares.every((column) => column.every((p) => p >= 0 && p <= 1))).toBe(true);
      expect(at(shares, 2).every((p) => p === 0)).toBe(true);
      if (kind === 'logistic' || kind === 'naive-bayes')
        expect(fitted.warnings.join(' ')).toContain('virginica');
    },
  );

  it('either class may be the positive one: the estimates of the other are theirs with the sign turned', () => {
    const table = tableOf(`x,won\n${lines(40, (i) => `${i},${(i * 7) % 10 < 3 + i / 8 ? 'yes' : 'no'}`)}\n`);
    const estimates = (positive: string) => {
      const target = targetOf(table, { target: 'won', task: 'binary', positive });
      const { description } = fit(table, 'won', 'binary', 'logistic', {}, { target });
      return (description.coefficients ?? []).map(({ estimate }) => estimate ?? NaN);
    };
    const [yes, no] = [estimates('yes'), estimates('no')];
    expect(Math.abs(at(yes, 1))).toBeGreaterThan(0.01);
    yes.forEach((estimate, i) => expect(at(no, i)).toBeCloseTo(-estimate, 8));
  });

  it('a level whose rows weigh nothing parts no tree, and a feature of which a class has no value is left out of naive Bayes', () => {
    const table = tableOf(
      `level,x,won\n${lines(30, (i) => `${'abc'[i % 3]},${i % 2 ? '' : i},${i % 2 ? 'yes' : 'no'}`)}\n`,
    );
    const weights = Float64Array.from({ length: 30 }, (_, i) => (i % 3 === 0 ? 0 : 1));
    const tree = fit(table, 'won', 'binary', 'tree', { branches: 'each' }, { weights, features: ['level'] });
    const shares = predictRows(tree, table, indices(30));
    expect(shares.every((column) => column.every((p) => p >= 0 && p <= 1))).toBe(true);
    for (const kind of ['kernel', 'mixed']) {
      const bayes = fit(table, 'won', 'binary', 'naive-bayes', { kind }, { features: ['x'] });
      expect(bayes.warnings).toEqual([expect.stringContaining('x has no value in class yes')]);
      // What is left are the shares of the classes.
      const [, yes] = predictRows(bayes, table, Int32Array.of(1, 2));
      expect(Array.from(yes ?? [])).toEqual([expect.closeTo(0.5, 12), expect.closeTo(0.5, 12)]);
    }
  });

  it('every family fits a single row, or says why not', () => {
    const table = tableOf(
      `x,level,y,won\n${lines(6, (i) => `${i},${'ab'[i % 2]},${i},${i % 2 ? 'yes' : 'no'}`)}\n`,
    );
    for (const { key, tasks } of MODEL_FAMILIES)
      for (const task of ['binary', 'regression'] as const) {
        if (!tasks.includes(task)) continue;
        const asked = request(
          table,
          task === 'binary' ? 'won' : 'y',
          task,
          key,
          {},
          { rows: Int32Array.of(2), features: ['x', 'level'] },
        );
        try {
          const out = predictRows(fitModel(asked), table, indices(6));
          expect(out.every((column) => column.every(Number.isFinite))).toBe(true);
        } catch (error) {
          expect(String(error)).toContain('of one class');
        }
      }
  });

  it('no rows, weights that are none, and multinomial counts below 0 are refused', () => {
    const table = tableOf(
      `x,w,y,won\n${lines(6, (i) => `${i - 3},${i === 2 ? '' : i},${i},${i % 2 ? 'yes' : 'no'}`)}\n`,
    );
    const weights = Float64Array.of(1, 1, NaN, 1, 1, 1);
    expect(() => fit(table, 'y', 'regression', 'mean', {}, { rows: new Int32Array() })).toThrow(
      'no row to train on',
    );
    expect(() => fit(table, 'y', 'regression', 'mean', {}, { weights })).toThrow('a number from 0');
    expect(() => fit(table, 'y', 'regression', 'mean', {}, { weights: new Float64Array(6) })).toThrow(
      'weigh 0',
    );
    expect(() =>
      fit(table, 'won', 'binary', 'naive-bayes', { kind: 'multinomial' }, { features: ['x'] }),
    ).toThrow('x has values below 0');
    expect(() => fit(table, 'y', 'regression', 'logistic')).toThrow('does not predict for this task');
  });
});

describe('an exact fit', () => {
  it('has estimates, and no tests of what rounding left', () => {
    const rows = Array.from(
      { length: 30 },
      (_, i) => `${i},${(i * 7) % 11},${0.1 + 0.3 * i - 0.7 * ((i * 7) % 11)}`,
    );
    const { description } = fit(tableOf(`a,b,y\n${rows.join('\n')}\n`), 'y', 'regression', 'linear');
    const [, a, b] = description.coefficients ?? [];
    expect(a?.estimate).toBeCloseTo(0.3, 9);
    expect(b?.estimate).toBeCloseTo(-0.7, 9);
    expect([a?.se, a?.p, b?.statistic]).toEqual([null, null, null]);
  });
});
