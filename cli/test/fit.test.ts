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
    [['--model', 'thicket'], 'There is no model “thicket”'],
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
