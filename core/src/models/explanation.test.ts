import { describe, expect, it } from '@jest/globals';
import { iris, tableOf } from '../../test/files.js';
import { fit } from '../../test/models.js';
import { at } from '../foundation/numbers.js';
import { takeRows, type Table } from '../data/table/table.js';
import { explainRow, predictRows, type Fitted } from './fitted.js';
import type { Explanation } from './contract/explanation.js';
import { isOf } from './contract/state.js';
import { forestForm, type ForestState } from './forest/forest-form.js';
import { MODEL_FAMILIES } from './registry.js';

const lines = Array.from({ length: 60 }, (_, i) => {
  const [x, z] = [(i * 7) % 11, i % 5];
  const level = 'abc'[i % 3] ?? '';
  return `${x},${z},${level},${3 * x - z + (level === 'b' ? 4 : 0) + (i % 2)},${x + z > 7 !== (i % 9 === 0) ? 'yes' : 'no'}`;
});
const table = tableOf(`x,z,level,y,won\n${lines.join('\n')}\n`);
const features = ['x', 'z', 'level'];

const oneOf = (row: number, of: Table): Table => ({
  rowCount: 1,
  columns: of.columns.map((column) => takeRows(column, Int32Array.of(row))),
});

type Contributions = Extract<Explanation, { kind: 'contributions' }>;
function contributions(fitted: Fitted, one: Table): Contributions {
  const found = explainRow(fitted, one);
  if (found?.kind !== 'contributions') throw new Error('no contributions');
  return found;
}
const total = ({ typical, parts }: Contributions): number =>
  parts.reduce((sum, { amount }) => sum + amount, typical);
const saidOf = (fitted: Fitted, one: Table) =>
  predictRows(fitted, one, Int32Array.of(0)).map((values) => at(values, 0));

describe('why a model says so', () => {
  it.each(['linear', 'ridge', 'lasso', 'elastic-net'])(
    '%s: contributions add up to the predicted number',
    (kind) => {
      const fitted = fit(table, 'y', 'regression', kind, {}, { features });
      for (const row of [0, 7, 31]) {
        const found = contributions(fitted, oneOf(row, table));
        expect(found.of).toBe('value');
        expect(total(found)).toBeCloseTo(at(saidOf(fitted, oneOf(row, table)), 0), 9);
      }
    },
  );

  it.each(['logistic', 'lasso'])(
    '%s: contributions add up to the log-odds of the likeliest class',
    (kind) => {
      const ofTwo = [table, 'won', 'binary', features] as const;
      const ofThree = [iris(), 'target', 'multiclass', ['sepal_length', 'petal_width']] as const;
      for (const [of, target, task, names] of kind === 'lasso' ? [ofTwo] : [ofTwo, ofThree]) {
        const values = kind === 'lasso' ? { penalty: 0.01 } : {};
        const fitted = fit(of, target, task, kind, values, { features: names });
        for (const row of [0, 20, 55]) {
          const found = contributions(fitted, oneOf(row, of));
          const said = saidOf(fitted, oneOf(row, of));
          const [first, second] = [...said].sort((a, b) => b - a);
          expect(found.of).toEqual({ label: said.indexOf(first ?? 0), against: said.indexOf(second ?? 0) });
          expect(total(found)).toBeCloseTo(Math.log((first ?? NaN) / (second ?? NaN)), 6);
        }
      }
    },
  );

  it('a forest of numbers: what its trees say, one by one, as they say it alone', () => {
    const forest = fit(table, 'y', 'regression', 'forest', { trees: 41 }, { features });
    const found = explainRow(forest, oneOf(7, table));
    if (found?.kind !== 'spread' || !isOf(forestForm, forest.state)) throw new Error('no spread');
    const said = forest.state.trees
      .map((tree) => {
        const state: ForestState = { form: 'forest', trees: [tree], classes: 0 };
        return at(saidOf({ ...forest, state }, oneOf(7, table)), 0);
      })
      .sort((a, b) => a - b);
    expect(found).toEqual({
      ...{ kind: 'spread', models: 41, low: said[2], lowerQuartile: said[10] },
      ...{ upperQuartile: said[30], high: said[38] },
    });
    expect(found.low).toBeLessThan(found.high);
    expect(explainRow(fit(table, 'won', 'binary', 'forest', {}, { features }), oneOf(7, table))).toBeNull();
  });

  it('nothing of a missing cell is added: it counts as what is most common', () => {
    const fitted = fit(table, 'y', 'regression', 'linear', {}, { features });
    const one = tableOf('x,z,level\n,3,b\n1,1,a\n');
    const { parts } = contributions(fitted, oneOf(0, one));
    expect(parts.find(({ feature }) => feature === 'x')?.amount).toBe(0);
    expect(parts.map(({ feature }) => feature)).toEqual(features);
  });

  it('a tree gives the conditions on the way to its leaf, and how many rows ended there', () => {
    const small = tableOf(
      `x,level,y\n${[1, 2, 3, 4, 5, 6].map((x) => `${x},${x < 5 ? 'a' : 'b'},${x < 3 ? 0 : x < 5 ? 5 : 9}`).join('\n')}\n`,
    );
    const fitted = fit(small, 'y', 'regression', 'tree', { first: 'level' }, { features: ['x', 'level'] });
    expect(explainRow(fitted, oneOf(1, small))).toEqual({
      kind: 'path',
      conditions: ['level is a', 'x ≤ 2.5'],
      rows: 2,
    });
    const strange = tableOf('x,level\n,zebra\n1,1\n');
    expect(explainRow(fitted, oneOf(0, strange))).toMatchObject({
      conditions: [
        'level not known here: with most rows, is a',
        expect.stringMatching(/^x not known here: with most rows, [≤>] 2.5$/),
      ],
    });
  });

  it('families without such an account give none', () => {
    const kinds = MODEL_FAMILIES.filter(({ tasks }) => tasks.includes('binary')).map(({ key }) => key);
    const explained = kinds.filter(
      (kind) => explainRow(fit(table, 'won', 'binary', kind, {}, { features }), oneOf(0, table)) !== null,
    );
    expect(explained).toEqual(['linear', 'logistic', 'ridge', 'lasso', 'elastic-net', 'tree']);
  });
});
