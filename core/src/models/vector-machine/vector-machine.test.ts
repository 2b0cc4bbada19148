import { describe, expect, it } from '@jest/globals';
import { breastCancer, diabetes, iris, tableOf, testFile } from '../../../test/files.js';
import { fit, modelCase, request } from '../../../test/models.js';
import { at, indices } from '../../foundation/numbers.js';
import type { PlanValue } from '../../data/sentence/parameter.js';
import { likeliest } from '../contract/chances.js';
import { fitModel, predictRows } from '../fitted.js';
import { KernelCache } from './kernel-cache.js';
import { solveDual, type Dual } from './solver.js';

/** Computed by test/reference/machines.py with scikit-learn, to a tolerance of 1e-6. */
const { runs } = JSON.parse(new TextDecoder().decode(testFile('reference/machines.json'))) as {
  runs: {
    data: 'iris' | 'wine' | 'breast-cancer' | 'diabetes';
    values: Record<string, PlanValue>;
    labels?: string[];
    vectors?: number;
    numbers?: number[];
  }[];
};

const DATA = {
  iris: { table: iris(), task: 'multiclass' },
  wine: { table: modelCase('tree-wine').table, task: 'multiclass' },
  'breast-cancer': { table: breastCancer(), task: 'binary' },
  diabetes: { table: diabetes(), task: 'regression' },
} as const;

describe('a support vector machine', () => {
  it.each(runs)(
    'says what scikit-learn says: $data, $values',
    ({ data, values, labels, vectors, numbers }) => {
      const { table, task } = DATA[data];
      const rows = indices(table.rowCount);
      const asked = request(table, 'target', task, 'vector-machine', values, {
        rows: rows.filter((row) => row % 3 !== 0),
      });
      const fitted = fitModel(asked);
      const said = predictRows(
        fitted,
        table,
        rows.filter((row) => row % 3 === 0),
      );
      if (numbers) {
        // Their tolerance and ours are of the standardised target, whose deviation is 77.
        numbers.forEach((number, i) => expect(Math.abs((said[0]?.[i] ?? NaN) - number)).toBeLessThan(0.2));
        return;
      }
      const codes = likeliest(said, fitted.positive);
      expect(Array.from(codes, (code) => at(fitted.labels, code))).toEqual(labels);
      const own = fitted.description.figures?.['support_vectors'] ?? 0;
      expect(Math.abs(own - (vectors ?? 0))).toBeLessThanOrEqual(0.03 * (vectors ?? 0) + 1);
    },
  );

  it('finds the widest margin of two rows on a line: half-way between them', () => {
    const table = tableOf('x,won\n0,no\n4,yes\n1,no\n3,yes\n');
    const values = { kernel: 'linear', cost: 1000 };
    const fitted = fit(table, 'won', 'binary', 'vector-machine', values);
    const between = tableOf('x,won\n1.99,no\n2.01,yes\n2,no\n');
    const [, yes] = predictRows(fitted, between, indices(3));
    expect(yes?.[0]).toBeLessThan(0.5);
    expect(yes?.[1]).toBeGreaterThan(0.5);
    expect(yes?.[2]).toBeCloseTo(0.5, 6);
    // The two outer rows could be left out.
    expect(fitted.description.figures?.['support_vectors']).toBe(2);
  });

  it('leaves numbers alone that are off by less than the tube', () => {
    const table = tableOf(`x,y\n${Array.from({ length: 20 }, (_, i) => `${i},${i % 2}`).join('\n')}\n`);
    const { description } = fit(table, 'y', 'regression', 'vector-machine', { tube: 2 });
    expect(description.figures?.['support_vectors']).toBe(0);
  });

  it('says that it was ended too early, where it was', () => {
    const columns = [Float64Array.of(0, 1, 2, 3)];
    const dual: Dual = {
      rows: indices(4),
      signs: Int8Array.of(1, -1, 1, -1),
      linear: new Float64Array(4).fill(-1),
      limits: new Float64Array(4).fill(100),
    };
    const kernel = () => new KernelCache({ kind: 'radial', factor: 1 }, columns, 4);
    expect(solveDual(dual, kernel(), 1).isDone).toBe(false);
    const { alphas, isDone } = solveDual(dual, kernel(), 1000);
    expect(isDone).toBe(true);
    const balance = alphas.reduce((sum, alpha, k) => sum + alpha * at(dual.signs, k), 0);
    expect(balance).toBeCloseTo(0, 9);
  });
});
