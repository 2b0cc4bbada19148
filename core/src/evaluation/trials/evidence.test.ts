import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, tableOf } from '../../../test/files.js';
import { request } from '../../../test/models.js';
import { makeFolds, testRows } from '../../splitting/folds/folds.js';
import { metricNamed } from '../../metrics/registry.js';
import { at, indices } from '../../foundation/numbers.js';
import { fitModel, judgedBy, predictRows } from '../../models/fitted.js';
import { against } from './against.js';
import { compareArms } from './arms.js';
import { evidenceOf } from './evidence.js';
import { measureFold, predictFold } from './measure.js';
import { predictOne } from './one-case.js';
import { summariseSetting } from './summary.js';

const accuracy = metricNamed('accuracy');

describe('evidence', () => {
  it('of classes: figures, grid, subgroups, classes and the rows that are worst, by name', () => {
    const table = iris();
    const asked = request(table, 'target', 'multiclass', 'naive-bayes');
    const rows = indices(150);
    const judged = judgedBy(asked.target, predictRows(fitModel(asked), table, rows));
    const design = () => ({ rowCount: 150, terms: [], columns: [] });
    const found = evidenceOf({
      table,
      task: 'multiclass',
      metric: 'accuracy',
      judged,
      rows,
      design,
      by: 'petal_width',
      isLinearFit: false,
      identifier: null,
      group: null,
    });
    expect(found.classes?.confusion.flat().reduce((a, b) => a + b, 0)).toBe(150);
    expect(found.groups.reduce((sum, group) => sum + group.rows, 0)).toBe(150);
    expect(found.levels.map(({ level, rows: n }) => [level, n])).toEqual([
      ['setosa', 50],
      ['versicolor', 50],
      ['virginica', 50],
    ]);
    const [worst, next] = found.largest;
    expect(worst?.error).toBeGreaterThanOrEqual(next?.error ?? 1);
    expect(worst?.name).toBe(String(worst?.row));
  });

  it('of numbers: runs of the target, diagnostics, inflation, and the rows that pull a linear fit', () => {
    const table = diabetes();
    const asked = request(table, 'target', 'regression', 'linear');
    const rows = indices(table.rowCount);
    const predicted = predictRows(fitModel(asked), table, rows);
    const columns = asked.features.map((name) => {
      const column = table.columns.find((one) => one.name === name);
      return column?.kind === 'number' ? column.values : new Float64Array();
    });
    const design = () => ({
      rowCount: rows.length,
      terms: asked.features.map((name) => ({ name, feature: name })),
      columns,
    });
    const found = evidenceOf({
      table,
      task: 'regression',
      metric: 'rmse',
      judged: judgedBy(asked.target, predicted),
      rows,
      design,
      by: null,
      isLinearFit: true,
      identifier: null,
      group: null,
    });
    expect(found.levels.reduce((sum, level) => sum + level.rows, 0)).toBe(table.rowCount);
    // Means of the residuals of the runs, weighted by rows, are that of all: 0.
    const mean = found.levels.reduce((sum, { rows: n, meanError }) => sum + n * (meanError ?? NaN), 0);
    expect(Math.abs(mean / table.rowCount)).toBeLessThan(1e-9);
    expect(found.numbers?.inflation.find(({ term }) => term === 's1')?.vif).toBeGreaterThan(10);
    expect(found.numbers?.influential).toHaveLength(10);
    expect(found.numbers?.points.length).toBe(table.rowCount);
  });
});

describe('two runs', () => {
  it('are compared over the same folds and on the rows of which they say otherwise', () => {
    const table = iris();
    const folds = makeFolds(table, { method: 'k-fold', k: 5, seed: 3 });
    const all = ['tree', 'most-frequent'].map((kind) => {
      const asked = request(table, 'target', 'multiclass', kind);
      const parts = Array.from({ length: 5 }, (_, f) => ({
        training: folds.training(0, f),
        test: testRows(folds, 0, f),
      }));
      const figures = parts.flatMap((part) => measureFold({ ...asked, ...part, vary: [] }).figures);
      const summary = summariseSetting({}, figures, [accuracy]);
      const out = [0, 1, 2].map(() => new Float64Array(150));
      for (const part of parts)
        predictFold({ ...asked, ...part }).forEach((values, label) =>
          part.test.forEach((row, i) => {
            at(out, label)[row] = values[i] ?? 0;
          }),
        );
      return { summary, judged: judgedBy(asked.target, out) };
    });
    const [tree, baseline] = all;
    if (!tree || !baseline) throw new Error('two runs');
    const compare = (isGrouped: boolean) =>
      against(
        [accuracy],
        [tree.summary, baseline.summary],
        0.25,
        [tree.judged, baseline.judged],
        indices(150),
        isGrouped,
      );
    const found = compare(false);
    // McNemar's test takes rows for independent, which those of one group are not.
    expect(found.mcnemar?.p).toBeLessThan(0.001);
    expect(compare(true).mcnemar).toMatchObject({ onlyFirst: found.mcnemar?.onlyFirst, p: null });
    expect(found.tests['accuracy']).toMatchObject({ df: 4 });
    const test = found.tests['accuracy'];
    expect(test && 'p' in test ? test.p : 1).toBeLessThan(0.01);
    expect(found.mcnemar?.onlyFirst).toBeGreaterThan(80);
    expect(found.rows.every(({ first, second }) => first !== second)).toBe(true);
  });
});

describe('weight on a subgroup', () => {
  /** In the north x raises y, in the south, which is rarer, it lowers it. */
  const lines = Array.from({ length: 120 }, (_, i) => {
    const isSouth = i % 6 === 0;
    const x = (i * 7) % 20;
    return `${x},${isSouth ? 'south' : 'north'},${isSouth ? 40 - x : 20 + x}`;
  });
  const table = tableOf(`x,side,y\n${lines.join('\n')}\n`);
  const folds = makeFolds(table, { method: 'stratified', k: 4, seed: 1, stratify: 'side' });
  const parts = Array.from({ length: 4 }, (_, f) => ({
    training: folds.training(0, f),
    test: testRows(folds, 0, f),
  }));
  const asked = request(table, 'y', 'regression', 'linear', {}, { features: ['x'] });
  const arms = (value: string) =>
    compareArms(asked, parts, { column: 'side', value, weights: [5, 50] }, metricNamed('rmse'));

  it('helps it and costs the rest, the more the heavier it is; alone it does best on itself', () => {
    const found = arms('south');
    expect(found.map(({ kind }) => kind)).toEqual(['unweighted', 'weighted', 'weighted', 'subgroup only']);
    const on = (part: 'subgroup' | 'rest') => found.map((arm) => arm[part].mean ?? NaN);
    expect(on('subgroup')).toEqual([...on('subgroup')].sort((a, b) => b - a));
    expect(on('rest')).toEqual([...on('rest')].sort((a, b) => a - b));
    expect(on('subgroup').at(-1)).toBeLessThan(1e-6);
  });

  it('of a subgroup that is not there is refused', () => {
    expect(() => arms('west')).toThrow('No row has side west');
  });
});

describe('one case', () => {
  const table = tableOf(
    `x,when,level,y\n${Array.from({ length: 30 }, (_, i) => `${i},2026-01-${String(1 + i).padStart(2, '0')},${'ab'[i % 2]},${2 * i}`).join('\n')}\n`,
  );
  const fitted = fitModel(request(table, 'y', 'regression', 'linear', {}, { features: ['x', 'level'] }));

  it('is predicted with an interval, and warned of outside the range of the training rows', () => {
    expect(predictOne(fitted, table, { x: '10', level: 'a' }, 1.5)).toMatchObject({
      answer: '20',
      low: expect.closeTo(20 - 1.96 * 1.5, 9),
      high: expect.closeTo(20 + 1.96 * 1.5, 9),
      warnings: [],
    });
    const far = predictOne(fitted, table, { x: '99', level: 'zebra' }, null);
    expect(far.warnings).toEqual([
      'x: 99 lies outside the range of the training rows, 0 to 29.',
      'level: “zebra” is in no training row.',
    ]);
    expect(() => predictOne(fitted, table, { x: 'ten' }, null)).toThrow('x: “ten” is no number.');
  });

  it('takes dates as they are written, and a missing cell', () => {
    const dated = fitModel(request(table, 'y', 'regression', 'linear', {}, { features: ['when'] }));
    expect(Number(predictOne(dated, table, { when: '2026-01-11' }, null).answer)).toBeCloseTo(20, 6);
    expect(predictOne(dated, table, { when: '2030-01-01' }, null).warnings[0]).toContain(
      '2026-01-01 to 2026-01-30',
    );
    expect(Number(predictOne(dated, table, { when: '' }, null).answer)).toBeCloseTo(29, 6);
  });
});

describe('the largest errors', () => {
  it('are in the order of their size, whichever way they go', () => {
    const table = tableOf('y\n1\n2\n3\n4\n5\n');
    const judged = {
      kind: 'numbers' as const,
      data: {
        truth: Float64Array.of(1, 2, 3, 4, 5),
        predicted: Float64Array.of(1.5, -6, 3.1, 7, 4),
        weights: null,
        features: null,
      },
    };
    const { largest } = evidenceOf({
      table,
      task: 'regression',
      metric: 'rmse',
      judged,
      rows: indices(5),
      design: () => ({ rowCount: 5, terms: [], columns: [] }),
      by: null,
      isLinearFit: false,
      identifier: null,
      group: null,
    });
    expect(largest.map(({ row }) => row)).toEqual([2, 4, 5, 1, 3]);
    expect(largest.map(({ error }) => Number(error.toFixed(3)))).toEqual([-8, 3, -1, 0.5, 0.1]);
  });
});
