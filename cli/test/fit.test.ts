import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { COLONIES, Folder } from './sieve.js';

const reference = (path: string) =>
  fileURLToPath(new URL(`../../core/test/reference/${path}`, import.meta.url));
const expectedOf = (name: string) =>
  (
    JSON.parse(readFileSync(reference(`${name}/expected.json`), 'utf8')) as {
      expected: Record<string, number[]>;
    }
  ).expected;

const fit = (name: string, ...more: string[]) =>
  new Folder().json(['fit', reference(`${name}/data.csv`), '--seed', '1', ...more]);

interface Coefficient {
  term: string;
  estimate: number;
  se: number;
  p: number;
  odds_ratio?: number;
}

const close = (value: number | undefined, should: number | undefined, tolerance = 1e-6) =>
  expect(Math.abs((value ?? NaN) - (should ?? NaN))).toBeLessThan(
    tolerance * Math.max(1, Math.abs(should ?? 0)),
  );

/** The classes of the wines stand one after another: 59, 71 and 48 rows. */
const wineClass = (row: number): string => `class_${row < 59 ? 0 : row < 130 ? 1 : 2}`;

describe('sieve fit', () => {
  it('linear: coefficients with inference, figures of the fit and on the training rows', () => {
    const {
      coefficients,
      metrics,
      fit: figures,
    } = fit('ols-longley', '--target', 'TOTEMP', '--model', 'linear');
    const expected = expectedOf('ols-longley');
    (coefficients as Coefficient[]).forEach((own, i) => {
      close(own.estimate, expected['estimate']?.[i]);
      close(own.se, expected['se']?.[i]);
      close(own.p, expected['p']?.[i]);
    });
    expect((coefficients as Coefficient[])[0]?.term).toBe('(intercept)');
    expect((metrics as { train: { r2: number } }).train.r2).toBeCloseTo((figures as { r2: number }).r2, 9);
  });

  it('logistic of a 0/1 column as a class: coefficients of the positive one, odds ratios', () => {
    const { coefficients, task } = fit(
      'logistic',
      '--target',
      'target',
      '--model',
      'logistic',
      '--task',
      'binary',
    );
    expect(task).toBe('binary');
    (coefficients as Coefficient[]).forEach((own, i) => {
      close(own.estimate, expectedOf('logistic')['estimate']?.[i], 1e-5);
      close(own.odds_ratio, expectedOf('logistic')['odds_ratio']?.[i], 1e-4);
    });
  });

  it('lasso without a penalty: the whole path; with folds the best penalty and the simplest within one standard error', () => {
    const found = fit('path-gaussian-alpha1', '--target', 'target', '--model', 'lasso', '--cv', '5');
    const path = found['path'] as {
      penalty: number;
      nonzero: number;
      coefficients: Record<string, number>;
    }[];
    expect(path).toHaveLength(100);
    const expected = expectedOf('path-gaussian-alpha1');
    close(path[4]?.penalty, expected['lambdas']?.[0]);
    close(path[4]?.coefficients['bmi'], 222.555405979966, 1e-4);
    expect(found['penalty_within_se']).toBeGreaterThan(found['penalty_best'] as number);
    const { cv } = found['metrics'] as { cv: { mean: { rmse: number }; folds: unknown[] } };
    expect(cv.folds).toHaveLength(5);
    expect(cv.mean.rmse).toBeGreaterThan(50);
  });

  it('elastic net at a penalty: on the target as it is', () => {
    const name = 'elastic-net-standardised';
    const { coefficients, settings } = fit(
      name,
      '--target',
      'target',
      '--model',
      'elastic-net',
      '--set',
      'penalty=0.05',
      '--set',
      'mixing=0.7',
    );
    expect(settings).toMatchObject({ penalty: 0.05, mixing: 0.7, units: 'as-is' });
    // Every feature of this table has the deviation 1/√442.
    (coefficients as Coefficient[])
      .slice(1)
      .forEach((own, i) => close(own.estimate / Math.sqrt(442), expectedOf(name)['estimate']?.[i], 1e-5));
  });

  it('a forest: its error out of bag, tree by tree, and importances; saved, it predicts the same', () => {
    const folder = new Folder();
    const data = reference('tree-wine/data.csv');
    const { out_of_bag: bag, importances } = folder.json([
      ...['fit', data, '--target', 'target', '--model', 'forest', '--seed', '1'],
      ...['--set', 'trees=30', '--set', 'features_per_split=2', '--save', 'forest.json'],
    ]);
    const { error, by_trees: byTrees } = bag as { error: number; by_trees: number[] };
    expect(byTrees).toHaveLength(30);
    expect(error).toBe(byTrees.at(-1));
    expect(error).toBeLessThan(0.08);
    expect((importances as { share: number }[]).reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 9);
    const said = folder.json(['predict', '--model', 'forest.json', '--data', data]);
    const { predictions } = said as { predictions: { prediction: string }[] };
    expect(predictions).toHaveLength(178);
    // A forest knows its training rows by heart.
    expect(predictions.filter(({ prediction }, row) => prediction !== wineClass(row)).length).toBeLessThan(3);
  });

  it('boosting, a vector machine and a network, with their settings', () => {
    const fitted = (model: string, ...settings: string[]) =>
      fit(
        'tree-wine',
        ...['--target', 'target', '--model', model, '--cv', '5', '--stratify', 'target'],
        ...settings.flatMap((setting) => ['--set', setting]),
      );
    const accuracy = (json: Record<string, unknown>) =>
      (json as { metrics: { cv: { mean: { accuracy: number } } } }).metrics.cv.mean.accuracy;
    const boosted = fitted('boosting', 'rounds=20', 'learning_rate=0.3', 'leaves=4', 'rows_per_leaf=5');
    expect(accuracy(boosted)).toBeGreaterThan(0.9);
    expect((boosted as { by_rounds: { training: number[] } }).by_rounds.training).toHaveLength(20);
    const machine = fitted('vector-machine', 'kernel=linear', 'cost=0.1');
    expect(accuracy(machine)).toBeGreaterThan(0.95);
    const net = fitted('network', 'layers=20,10', 'epochs=40', 'learning_rate=0.01', 'batch=30');
    expect(accuracy(net)).toBeGreaterThan(0.94);
    expect((net as { by_epochs: { validation: unknown } }).by_epochs.validation).toBeNull();
  });

  it('refuses layers of a network that are none, by their name', () => {
    const { status, stderr } = new Folder().run([
      ...['fit', reference('tree-wine/data.csv'), '--target', 'target', '--model', 'network', '--seed', '1'],
      ...['--set', 'layers=wide'],
    ]);
    expect(status).toBe(2);
    expect(stderr).toContain('Layers are whole numbers from 1 to 1000');
  });

  it('a tree: its nodes, rules and importances; saved as JSON that can be read', () => {
    const folder = new Folder();
    const { tree, importances } = folder.json([
      'fit',
      reference('tree-wine/data.csv'),
      '--target',
      'target',
      '--model',
      'tree',
      '--set',
      'depth=2',
      '--seed',
      '1',
      '--save',
      'tree.json',
    ]);
    const { nodes, rules } = tree as { nodes: { split: { name: string } | null }[]; rules: unknown[] };
    expect(nodes[0]?.split?.name).toBe('proline');
    expect(rules).toHaveLength(4);
    expect((importances as { share: number }[]).reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 9);
    const saved = JSON.parse(folder.read('tree.json')) as { version: number; state: { form: string } };
    expect(saved).toMatchObject({ version: 1, state: { form: 'tree' } });
  });

  it('leaves rows without a label out and says so, never parts groups, and counts by weight', () => {
    const folder = new Folder();
    const lines = Array.from(
      { length: 40 },
      (_, i) => `${i},${'abcde'[i % 5]},${1 + (i % 2)},${i === 3 ? '' : i % 3 ? 'no' : 'yes'}`,
    );
    folder.write('t.csv', `x,hive,w,lost\n${lines.join('\n')}\n`);
    const line = [
      'fit',
      't.csv',
      '--target',
      'lost',
      '--model',
      'naive-bayes',
      '--cv',
      '5',
      '--group',
      'hive',
      '--weight',
      'w',
      '--seed',
      '1',
      '--json',
    ];
    const { out, said, code } = folder.run(line);
    expect(code).toBe(0);
    expect(said).toContain('1 rows without lost are left out');
    expect(JSON.parse(out)).toMatchObject({ rows: 39, metrics: { cv: { folds: { length: 5 } } } });
  });

  it.each([
    [['--model', 'forest'], 'There is no model “forest”'],
    [['--model', 'tree', '--set', 'deep=3'], 'tree has no setting “deep”; it has depth'],
    [['--model', 'tree', '--set', 'depth=three'], 'depth is a number, not “three”'],
    [['--model', 'tree', '--set', 'depth'], 'A setting is key=value'],
    [['--model', 'tree', '--set', 'depth=0'], 'depth is at least 1'],
    [['--model', 'tree', '--set', 'criterion=chance'], 'criterion is one of'],
    [['--model', 'linear', '--task', 'multiclass'], 'does not predict for this task'],
    [['--model', 'tree', '--features', 'nothing'], 'There is no column “nothing”'],
    [['--model', 'tree', '--weight', 'apiary'], 'holds no numbers'],
    [['--model', 'tree', '--cv', '1000'], 'cannot make 1,000 folds'],
  ])('%j is refused in one sentence', (more, words) => {
    const folder = new Folder();
    folder.write('c.csv', COLONIES);
    const { code, said, out } = folder.run([
      'fit',
      'c.csv',
      '--target',
      'outcome',
      '--seed',
      '1',
      '--json',
      ...more,
    ]);
    expect(code).toBe(2);
    expect(out).toBe('');
    expect(said).toContain(words);
  });
});

describe('sieve diagnose', () => {
  it('gives what the reference library gives', () => {
    const found = new Folder().json([
      'diagnose',
      reference('diagnose/data.csv'),
      '--target',
      'target',
      '--features',
      'bmi,bp,s1,s2,s5',
    ]);
    const expected = expectedOf('diagnose');
    (found['vif'] as { vif: number }[]).forEach(({ vif }, i) => close(vif, expected['vif']?.[i]));
    (found['acf'] as number[]).forEach((value, i) => close(value, expected['acf']?.[i]));
    expect(found['breusch_pagan']).toMatchObject({
      lm: expect.closeTo(15.85236867922747, 6),
      p: expect.closeTo(0.007278454653415312, 8),
    });
    expect(found['jarque_bera']).toMatchObject({ p: expect.closeTo(0.13779456069312845, 8) });
    expect(found['durbin_watson']).toBeCloseTo(2.023198208672818, 8);
  });

  it('refuses texts, too few rows, and a target that is none', () => {
    const folder = new Folder();
    folder.write('t.csv', 'x,z,level,y\n1,2,a,3\n2,1,b,4\n3,5,a,\n');
    const said = (...more: string[]) => folder.run(['diagnose', 't.csv', ...more]).said;
    expect(said('--target', 'y', '--features', 'level')).toContain('level holds no numbers');
    expect(said('--target', 'y')).toContain('too few for 2 features');
    expect(said('--target', 'level')).toContain('level holds no numbers');
    expect(said('--target', 'nothing')).toContain('no column “nothing”');
  });
});
