import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { breastCancer, diabetes, tableOf } from '../../../test/files.js';
import { fit } from '../../../test/models.js';
import { indices } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import { isOf } from '../contract/state.js';
import type { Helpers } from '../../foundation/work/work.js';
import { predictRows, type Fitted } from '../fitted.js';
import type { Table } from '../../data/table/table.js';
import { NodeBudget } from '../trees/compact-tree.js';
import { RankSorter } from '../trees/ranks.js';
import { forestForm } from './forest-form.js';

const predicted = (fitted: Fitted, table: Table) => predictRows(fitted, table, indices(table.rowCount));

/** Tables with gaps, a category, three classes and a number. */
const tables = fc
  .array(
    fc.tuple(fc.integer({ min: -9, max: 9 }), fc.constantFrom('a', 'b', 'c', ''), fc.nat(6), fc.nat(2)),
    { minLength: 12, maxLength: 80 },
  )
  .map((rows) => {
    const lines = rows.map(([x, level, z, noise], i) => {
      const kind = ['p', 'q', 'r'][(Math.abs(x) + z + noise) % 3] ?? '';
      return `${i % 9 === 4 ? '' : x / 4},${level},${z},${x + 3 * z + noise},${kind}`;
    });
    return tableOf(`x,level,z,y,kind\n0,a,0,0,p\n1,b,1,1,q\n2,c,2,2,r\n${lines.join('\n')}\n`);
  });

/** Does pieces one after another, as threads would: what they get and give is copied. */
const helpersOf = (size: number): Helpers & { pieces: number } => ({
  size,
  pieces: 0,
  runTogether(task, inputs) {
    this.pieces += inputs.length;
    return inputs.map((input) => structuredClone(task.run(structuredClone(input))));
  },
});

describe('a random forest', () => {
  it.each(['binary', 'regression'] as const)('is the same with 1, 2 and 4 threads (%s)', (task) => {
    const table = task === 'binary' ? breastCancer() : diabetes();
    const grown = (helpers?: Helpers) =>
      JSON.stringify(fit(table, 'target', task, 'forest', { trees: 2000, depth: 2 }, helpers && { helpers }));
    const alone = grown();
    for (const size of [1, 2, 4]) {
      const helpers = helpersOf(size);
      expect(grown(helpers) === alone).toBe(true);
      expect(helpers.pieces).toBe(size === 1 ? 0 : size);
    }
  });

  it('asks no thread for help where there is little to do', () => {
    const helpers = helpersOf(4);
    fit(diabetes(), 'target', 'regression', 'forest', { trees: 20 }, { helpers });
    expect(helpers.pieces).toBe(0);
  });

  it.each([
    ['kind', 'multiclass'],
    ['y', 'regression'],
  ] as const)('of one tree, all rows and all columns is the decision tree (%s)', (target, task) => {
    fc.assert(
      fc.property(
        tables,
        fc.constantFrom(1, 2, 5),
        fc.constantFrom(2, 4, 60),
        (table, rowsPerLeaf, depth) => {
          const values = { rows_per_leaf: rowsPerLeaf, depth };
          const features = ['x', 'level', 'z'];
          const tree = fit(table, target, task, 'tree', values, { features });
          const own = { ...values, trees: 1, rows: 'all', features_per_split: 3 };
          const forest = fit(table, target, task, 'forest', own, { features });
          const said = predicted(forest, table);
          predicted(tree, table).forEach((column, k) =>
            column.forEach((value, row) => expect(said[k]?.[row]).toBeCloseTo(value, 9)),
          );
        },
      ),
      { numRuns: 60 },
    );
  });

  it('shows by the rows that its trees have not seen what rows held out show', () => {
    const table = breastCancer();
    const rows = indices(table.rowCount);
    const target = 'target';
    const training = rows.filter((row) => row % 2 === 0);
    const held = rows.filter((row) => row % 2 === 1);
    const fitted = fit(table, target, 'binary', 'forest', {}, { rows: training });
    const outOfBag = fitted.description.growth?.heldOut?.values ?? [];
    const [, malignant] = predictRows(fitted, table, held);
    const codes = table.columns.find(({ name }) => name === target);
    const truth = codes && 'codes' in codes ? codes.codes : new Int32Array();
    const levels = codes && 'levels' in codes ? codes.levels : [];
    const wrong = held.filter(
      (row, i) => (malignant?.[i] ?? 0) >= 0.5 !== (levels[truth[row] ?? 0] === 'malignant'),
    );
    expect(outOfBag).toHaveLength(100);
    // Two shares of about 285 rows each, near 0.05: three standard errors of their difference.
    expect(Math.abs((outOfBag.at(-1) ?? 1) - wrong.length / held.length)).toBeLessThan(0.055);
  });

  it('errs less out of bag the more trees it has, until that changes nothing', () => {
    const { growth } = fit(diabetes(), 'target', 'regression', 'forest', { trees: 200 }).description;
    const errors = (growth?.heldOut?.values ?? []).map((error) => error ?? NaN);
    const [one = 0, ten = 0, hundred = 0, all = 0] = [0, 9, 99, 199].map((place) => errors[place]);
    expect(one).toBeGreaterThan(1.3 * ten);
    expect(ten).toBeGreaterThan(1.03 * hundred);
    expect(Math.abs(all / hundred - 1)).toBeLessThan(0.02);
  });

  it('has no out-of-bag error where every tree has seen every row', () => {
    const fitted = fit(breastCancer(), 'target', 'binary', 'forest', { trees: 2, rows: 'all' });
    expect(fitted.description.growth).toBeUndefined();
  });

  it('takes the same trees from the same seed, and others from another', () => {
    const trees = (seed: number) => {
      const { state } = fit(breastCancer(), 'target', 'binary', 'forest', { trees: 3 }, { seed });
      return isOf(forestForm, state) ? state.trees : [];
    };
    expect(trees(4)).toEqual(trees(4));
    expect(trees(4)).not.toEqual(trees(5));
  });

  it('overrates columns of many values where nothing is to be learned, and gives a constant one nothing', () => {
    const random = seededRandom(3);
    const lines = Array.from(
      { length: 300 },
      () => `${random.unit().toFixed(6)},${random.below(2)},7,${random.below(2) ? 'yes' : 'no'}`,
    );
    const table = tableOf(`many,few,one,won\n${lines.join('\n')}\n`);
    const { importances = [] } = fit(table, 'won', 'binary', 'forest', {}).description;
    const shareOf = (name: string) => importances.find(({ feature }) => feature === name)?.share ?? NaN;
    expect(shareOf('many')).toBeGreaterThan(5 * shareOf('few'));
    expect(shareOf('one')).toBe(0);
    expect(importances.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 12);
  });

  it('draws thresholds between the smallest and the largest value where they are to be random', () => {
    const table = breastCancer();
    const { state } = fit(table, 'target', 'binary', 'forest', {
      trees: 5,
      thresholds: 'random',
      rows: 'all',
    });
    const trees = isOf(forestForm, state) ? state.trees : [];
    const values = table.columns.flatMap((column) => (column.kind === 'number' ? [column.values] : []));
    let thresholds = 0;
    for (const { columns, thresholds: own } of trees)
      for (let place = 0; place < columns.length; place++) {
        const column = values[columns[place] ?? -1];
        if (!column) continue;
        thresholds++;
        expect(own[place]).toBeGreaterThanOrEqual(column.reduce((a, b) => Math.min(a, b)));
        expect(own[place]).toBeLessThan(column.reduce((a, b) => Math.max(a, b)));
      }
    expect(thresholds).toBeGreaterThan(50);
  });

  it('leaves rows that weigh nothing out', () => {
    const table = tableOf(
      `x,won\n${Array.from({ length: 40 }, (_, i) => `${i},${i < 20 ? 'no' : 'yes'}`).join('\n')}\n`,
    );
    const weights = Float64Array.from({ length: 40 }, (_, i) => (i < 20 ? 0 : 1));
    const [, yes] = predicted(fit(table, 'won', 'binary', 'forest', { trees: 5 }, { weights }), table);
    expect(Array.from(yes ?? [])).toEqual(new Array(40).fill(1));
  });
});

describe('the nodes of a model', () => {
  it('are limited, in words that say what to change', () => {
    const budget = new NodeBudget();
    const tree = { columns: new Int32Array(3e6), thresholds: [], lows: [], missingHigh: [], values: [] };
    budget.spend(tree, 'trees');
    budget.spend(tree, 'trees');
    expect(() => budget.spend(tree, 'trees')).toThrow('more than 8,000,000 nodes: ask for fewer');
  });
});

describe('sorting by rank', () => {
  it('is what a stable sort makes of any keys', () => {
    const sorter = new RankSorter(3000);
    fc.assert(
      fc.property(
        fc.array(fc.nat(5000), { minLength: 1, maxLength: 3000 }),
        fc.constantFrom(0, 7, 1 << 20),
        fc.constantFrom(1, 400),
        (numbers, from, times) => {
          const keys = Int32Array.from(numbers, (key) => from + key * times);
          const items = indices(keys.length);
          const expected = [...items].sort((a, b) => (keys[a] ?? 0) - (keys[b] ?? 0) || a - b);
          const [least, most] = [Math.min(...keys), Math.max(...keys)];
          sorter.sort(keys, items, keys.length, least, most);
          expect([...items]).toEqual(expected);
        },
      ),
      { numRuns: 50 },
    );
  });
});
