import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, tableOf, testFile } from '../../../test/files.js';
import { fit, request } from '../../../test/models.js';
import { at, indices } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import { metricNamed } from '../../metrics/registry.js';
import { permutationImportance } from './importance.js';

/** Computed by test/reference/columns.py with scikit-learn: five folds, 100 shuffles in each. */
const { importance } = JSON.parse(new TextDecoder().decode(testFile('reference/columns.json'))) as {
  importance: Record<'linear' | 'tree' | 'naive-bayes', { mean: number[]; deviation: number[] }>;
};

const foldsOf = (rowCount: number, count = 5) =>
  Array.from({ length: count }, (_, fold) => ({
    training: indices(rowCount).filter((row) => row % count !== fold),
    test: indices(rowCount).filter((row) => row % count === fold),
  }));

describe('permutation importance', () => {
  it.each([
    ['linear', diabetes(), 'regression', {}, 'mse'],
    ['tree', diabetes(), 'regression', { depth: 3, rows_per_leaf: 5 }, 'mse'],
    ['naive-bayes', iris(), 'multiclass', {}, 'accuracy'],
  ] as const)(
    'of %s is that of scikit-learn, as far as shuffles are by chance',
    (kind, table, task, values, metric) => {
      const found = permutationImportance(
        request(table, 'target', task, kind, values),
        foldsOf(table.rowCount),
        metricNamed(metric),
      );
      const { mean, deviation } = importance[kind];
      found.forEach((one, c) => {
        const away = Math.abs((one.mean ?? NaN) - at(mean, c)) / Math.max(at(deviation, c), 1e-9);
        // Four deviations of our 150 shuffles, and what is left of the 500 there.
        expect(`${one.column} ${away < 4.5 ? 'agrees' : away}`).toBe(`${one.column} agrees`);
      });
    },
  );

  it('is exactly 0 of a column that the model ignores, whatever it holds', () => {
    const lines = Array.from(
      { length: 60 },
      (_, i) => `${i % 12},${(i * 7) % 5},${'abc'[i % 3]},${(i % 12) * 2}`,
    );
    const table = tableOf(`used,spare,level,y\n${lines.join('\n')}\n`);
    const found = permutationImportance(
      request(table, 'y', 'regression', 'tree', { depth: 1, first: 'used' }),
      foldsOf(60),
      metricNamed('rmse'),
    );
    expect(found.map(({ column, mean }) => [column, mean === 0])).toEqual([
      ['used', false],
      ['spare', true],
      ['level', true],
    ]);
    expect(found[0]).toMatchObject({ isShown: true });
  });

  it('takes all dummies of a category, and all words of a text, together', () => {
    const notes = { a: 'calm bees', b: 'angry bees', c: 'calm queen' } as const;
    const lines = Array.from({ length: 90 }, (_, i) => {
      const level = 'abc'[(i * 7) % 3] as 'a' | 'b' | 'c';
      return `${level},"${notes[level]} ${String(i)}",${{ a: 1, b: 5, c: 9 }[level] + (i % 2)}`;
    });
    const table = tableOf(`level,note,y\n${lines.join('\n')}\n`);
    const found = permutationImportance(
      request(table, 'y', 'regression', 'linear', {}, { features: ['level'] }),
      foldsOf(90),
      metricNamed('mse'),
    );
    // The squared difference of two rows drawn at random: twice the variance of the means, which are 1.5, 5.5 and 9.5.
    expect(
      at(
        found.map(({ mean }) => mean ?? NaN),
        0,
      ),
    ).toBeGreaterThan(0.75 * 2 * (32 / 3));
    expect(
      at(
        found.map(({ mean }) => mean ?? NaN),
        0,
      ),
    ).toBeLessThan(1.25 * 2 * (32 / 3));
  });

  it('is 0 of a feature that has no value, and not defined where no fold can be judged', () => {
    const lines = Array.from({ length: 20 }, (_, i) => `${i % 7},,${i < 10 ? 'no' : 'yes'}`);
    const table = tableOf(`x,empty,won\n${lines.join('\n')}\n`);
    const asked = request(table, 'won', 'binary', 'tree', {}, { features: ['x', 'empty'] });
    const halves = [indices(20).filter((row) => row % 2 === 0), indices(20).filter((row) => row % 2 === 1)];
    const folds = [0, 1].map((k) => ({ training: at(halves, 1 - k), test: at(halves, k) }));
    expect(permutationImportance(asked, folds, metricNamed('accuracy'))[1]).toEqual({
      column: 'empty',
      mean: 0,
      se: 0,
      isShown: false,
    });
    const ofOneClass = folds.map(({ training, test }) => ({
      training,
      test: test.filter((row) => row < 10),
    }));
    expect(permutationImportance(asked, ofOneClass, metricNamed('roc_auc'))[0]).toEqual({
      column: 'x',
      mean: null,
      se: null,
      isShown: false,
    });
  });

  it('shows hardly ever a column that is noise, and always one that is not', () => {
    const random = seededRandom(20261130);
    const normal = () => Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());
    const tables = 60;
    let [alarms, hits] = [0, 0];
    for (let t = 0; t < tables; t++) {
      const lines = Array.from({ length: 100 }, () => {
        const [x, a, b, c] = [normal(), normal(), normal(), normal()];
        return [x, a, b, c, x + normal()].join(',');
      });
      const found = permutationImportance(
        request(tableOf(`x,a,b,c,y\n${lines.join('\n')}\n`), 'y', 'regression', 'linear'),
        foldsOf(100),
        metricNamed('rmse'),
      );
      if (found[0]?.isShown) hits++;
      if (found.slice(1).some(({ isShown }) => isShown)) alarms++;
    }
    // At most 2.5 % are allowed in the long run: six of sixty would come about once in two thousand times.
    expect(alarms).toBeLessThan(6);
    expect(hits).toBe(tables);
  });

  it('shows hardly ever a column of noise that is the same in a whole group', () => {
    const random = seededRandom(41);
    const normal = () => Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());
    const tables = 60;
    const alarms = { byRows: 0, byGroups: 0 };
    for (let t = 0; t < tables; t++) {
      // Twenty groups of ten rows, each with a height of its own that no column explains; whole groups in a fold.
      const lines = Array.from({ length: 20 }, () => [normal(), normal()]).flatMap(
        ([noise = 0, height = 0]) => Array.from({ length: 10 }, () => `${noise},${height + 0.3 * normal()}`),
      );
      const rows = indices(200);
      const folds = [0, 1, 2, 3, 4].map((fold) => ({
        training: rows.filter((row) => Math.floor(row / 10) % 5 !== fold),
        test: rows.filter((row) => Math.floor(row / 10) % 5 === fold),
      }));
      const asked = request(tableOf(`noise,y\n${lines.join('\n')}\n`), 'y', 'regression', 'linear');
      const isShown = (isGrouped: boolean) =>
        permutationImportance(asked, folds, metricNamed('rmse'), isGrouped)[0]?.isShown === true;
      if (isShown(false)) alarms.byRows++;
      if (isShown(true)) alarms.byGroups++;
    }
    expect(alarms.byRows).toBeGreaterThan(5);
    expect(alarms.byGroups).toBeLessThan(6);
  });

  it('shows the columns that a forest of noise splits on for what they are', () => {
    const random = seededRandom(7);
    const lines = Array.from(
      { length: 120 },
      (_, i) => `${random.unit()},${random.below(2)},${i % 2 ? 'yes' : 'no'}`,
    );
    const table = tableOf(`many,few,won\n${lines.join('\n')}\n`);
    const { description } = fit(table, 'won', 'binary', 'forest', { trees: 30 });
    const [first] = description.importances ?? [];
    // Impurity favours the column of many values, and says nothing of new rows.
    expect(first).toMatchObject({ feature: 'many' });
    expect(first?.share).toBeGreaterThan(0.8);
    const found = permutationImportance(
      request(table, 'won', 'binary', 'forest', { trees: 30 }),
      foldsOf(120),
      metricNamed('roc_auc'),
    );
    expect(found.map(({ isShown }) => isShown)).toEqual([false, false]);
  });
});
