import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { breastCancer, diabetes, iris, tableOf } from '../../../test/files.js';
import { fit } from '../../../test/models.js';
import { indices } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import type { Table } from '../../data/table/table.js';
import { predictRows, type Fitted } from '../fitted.js';
import { treeInputs } from '../trees/compact-tree.js';
import { binColumns } from './bins.js';

const predicted = (fitted: Fitted, table: Table) => predictRows(fitted, table, indices(table.rowCount));
const lossesOf = ({ description }: Fitted): readonly number[] => description.growth?.training ?? [];

describe('gradient boosting', () => {
  it.each([
    ['won', 'binary', {}],
    ['kind', 'multiclass', {}],
    ['y', 'regression', {}],
    ['y', 'regression', { loss: 'quantile', level: 80 }],
  ] as const)(
    'never raises its loss on the training rows, however fast it learns (%s, %s %j)',
    (target, task, more) => {
      fc.assert(
        fc.property(
          fc.array(fc.tuple(fc.nat(9), fc.nat(4), fc.nat(30)), { minLength: 20, maxLength: 50 }),
          fc.constantFrom(0.1, 0.5, 1),
          (rows, rate) => {
            const lines = rows.map(
              ([x, z, y], i) =>
                `${i % 6 === 2 ? '' : x},${'abcde'[z] ?? ''},${y},${y % 2 ? 'yes' : 'no'},${'pqr'[(x + y) % 3] ?? ''}`,
            );
            const table = tableOf(
              `x,level,y,won,kind\n1,a,1,yes,p\n2,b,2,no,q\n3,c,3,no,r\n${lines.join('\n')}\n`,
            );
            const values = { rounds: 40, learning_rate: rate, rows_per_leaf: 1, leaves: 6, ...more };
            const losses = lossesOf(
              fit(table, target, task, 'boosting', values, { features: ['x', 'level'] }),
            );
            expect(losses).toHaveLength(40);
            losses.slice(1).forEach((loss, i) => expect(loss).toBeLessThanOrEqual((losses[i] ?? 0) + 1e-12));
          },
        ),
        { numRuns: 25 },
      );
    },
  );

  it('reports the loss that its predictions have', () => {
    const table = breastCancer();
    const fitted = fit(table, 'target', 'binary', 'boosting', { rounds: 20 });
    const said = predicted(fitted, table);
    const column = table.columns.at(-1);
    const levels = column && 'levels' in column ? column.levels : [];
    const codes = column && 'codes' in column ? column.codes : new Int32Array();
    const label = ['benign', 'malignant'];
    const logs = Array.from(
      codes,
      (code, row) => -Math.log(said[label.indexOf(levels[code] ?? '')]?.[row] ?? 0),
    );
    expect(lossesOf(fitted).at(-1)).toBeCloseTo(logs.reduce((a, b) => a + b, 0) / logs.length, 10);
  });

  it('sends missing values to the side where they help', () => {
    // Whether the cell is empty says everything.
    const lines = Array.from(
      { length: 200 },
      (_, i) => `${i % 4 === 0 ? '' : i % 17},${i % 4 === 0 ? 'yes' : 'no'}`,
    );
    const table = tableOf(`x,won\n${lines.join('\n')}\n`);
    const [, yes] = predicted(fit(table, 'won', 'binary', 'boosting', { rounds: 30 }), table);
    yes?.forEach((chance, row) => expect(Math.abs(chance - (row % 4 === 0 ? 1 : 0))).toBeLessThan(0.05));
  });

  it('splits levels of a category by what they mean, in whatever order they stand', () => {
    // a, c and e against b and d: one split.
    const lines = Array.from(
      { length: 200 },
      (_, i) => `${'abcde'[i % 5] ?? ''},${i % 5 === 1 || i % 5 === 3 ? 10 : 2}`,
    );
    const table = tableOf(`level,y\n${lines.join('\n')}\n`);
    const [said] = predicted(
      fit(table, 'y', 'regression', 'boosting', { rounds: 1, leaves: 2, learning_rate: 1 }),
      table,
    );
    said?.forEach((value, row) => expect(value).toBeCloseTo(row % 5 === 1 || row % 5 === 3 ? 10 : 2, 9));
  });

  it.each([10, 50, 90])('fits a quantile: about %i %% of the training rows are below it', (level) => {
    const table = diabetes();
    const fitted = fit(table, 'target', 'regression', 'boosting', {
      loss: 'quantile',
      level,
      rounds: 50,
      leaves: 4,
    });
    const [said] = predicted(fitted, table);
    const target = table.columns.at(-1);
    const truth = target?.kind === 'number' ? target.values : new Float64Array();
    const below = truth.filter((value, row) => value <= (said?.[row] ?? 0)).length / truth.length;
    expect(Math.abs(below - level / 100)).toBeLessThan(0.06);
  });

  it('stops when a held-out part of the training rows stops gaining, and keeps the best round', () => {
    const random = seededRandom(8);
    const lines = Array.from({ length: 400 }, () => {
      const x = random.unit();
      return `${x.toFixed(4)},${random.unit().toFixed(4)},${x + 2 * random.unit() > 1.5 ? 'yes' : 'no'}`;
    });
    const table = tableOf(`x,noise,won\n${lines.join('\n')}\n`);
    const fitted = fit(table, 'won', 'binary', 'boosting', { rounds: 500, patience: 10, validation: 25 });
    const { growth, figures } = fitted.description;
    const held = (growth?.heldOut?.values ?? []).map((loss) => loss ?? NaN);
    const rounds = figures?.['rounds'] ?? 0;
    expect(held.length).toBeLessThan(100);
    expect(held.length).toBe(rounds + 10);
    expect(held[rounds - 1]).toBe(Math.min(...held));
  });

  it('draws nothing at random: another seed gives the same model', () => {
    const said = (seed: number) =>
      predicted(fit(iris(), 'target', 'multiclass', 'boosting', { rounds: 5 }, { seed }), iris());
    expect(said(1)).toEqual(said(2));
  });
});

describe('bins', () => {
  it('hold neighbouring values, as many as are asked for at most, and every row is in the bin of its value', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.constant(NaN),
            fc.integer({ min: -50, max: 50 }),
            fc.double({ noNaN: true, min: -1e6, max: 1e6 }),
          ),
          {
            minLength: 1,
            maxLength: 300,
          },
        ),
        fc.constantFrom(2, 5, 40, 255),
        (numbers, most) => {
          const values = Float64Array.from(numbers);
          const inputs = treeInputs([{ kind: 'number', name: 'x', values, fill: 0 }]);
          const [column] = binColumns(inputs, most);
          if (!column) throw new Error('one column was asked for');
          const { bins, edges, count, hasMissing } = column;
          expect(count).toBe(edges.length + 1);
          expect(count).toBeLessThanOrEqual(most);
          expect(hasMissing).toBe(values.some(Number.isNaN));
          values.forEach((value, row) => {
            const bin = bins[row] ?? 0;
            if (Number.isNaN(value)) expect(bin).toBe(count);
            else {
              if (bin < edges.length) expect(value).toBeLessThanOrEqual(edges[bin] ?? NaN);
              if (bin > 0) expect(value).toBeGreaterThan(edges[bin - 1] ?? NaN);
            }
          });
          const distinct = new Set(numbers.filter((value) => !Number.isNaN(value)).map((value) => value + 0))
            .size;
          if (distinct <= most && distinct > 0) expect(count).toBe(distinct);
        },
      ),
    );
  });
});
