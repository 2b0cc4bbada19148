import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, tableOf, testFile } from '../../../test/files.js';
import { request } from '../../../test/models.js';
import { at, indices } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import { metricNamed } from '../../metrics/registry.js';
import { screeningLeak } from './inside-outside.js';
import { screenedFeatures } from '../../models/screening/keep.js';
import { SCREENS, statisticOf, type ScreenBy } from '../../models/screening/statistics.js';
import { discoveryRates, screenColumns } from './screen.js';

/** Computed by test/reference/screening.py with SciPy 1.10.1 and scikit-learn 1.2.1. */
const { cases } = JSON.parse(new TextDecoder().decode(testFile('reference/screening.json'))) as {
  cases: { data: 'iris' | 'diabetes'; column: number; expected: Record<ScreenBy, [number, number]> }[];
};

const ready = {
  iris: request(iris(), 'target', 'multiclass', 'tree'),
  diabetes: request(diabetes(), 'target', 'regression', 'linear'),
};

/** Columns of noise beside one that counts, and a target of classes. */
function noisy(rows: number, columns: number, strength: number, seed: number) {
  const random = seededRandom(seed);
  const lines = Array.from({ length: rows }, () => {
    const values = Array.from({ length: columns }, () => random.unit());
    const chance = 0.5 + strength * ((values[0] ?? 0) - 0.5);
    return `${values.join(',')},${random.unit() < chance ? 'yes' : 'no'}`;
  });
  const names = Array.from({ length: columns }, (_, c) => `x${c}`);
  return tableOf(`${names.join(',')},lost\n${lines.join('\n')}\n`);
}

const foldsOf = (rows: number) =>
  Array.from({ length: 5 }, (_, fold) => ({
    training: indices(rows).filter((row) => row % 5 !== fold),
    test: indices(rows).filter((row) => row % 5 === fold),
  }));

describe('a column beside the target', () => {
  it.each(cases.map((one) => [one.data, one.column, one] as const))(
    'of %s, column %i, has the statistics and chances of SciPy and scikit-learn',
    (data, column, { expected }) => {
      const own = ready[data];
      const feature = at(own.features, column);
      for (const by of SCREENS) {
        const [found] = screenColumns({ ...own, features: [feature], by }, 1);
        const [statistic, p] = expected[by];
        expect(Math.abs((found?.statistic ?? NaN) / statistic - 1)).toBeLessThan(1e-9);
        expect(Math.abs(Math.log((found?.p ?? NaN) / p))).toBeLessThan(1e-6);
      }
    },
  );

  it('counts a category as it is, and is not judged by an analysis of variance beside classes', () => {
    // Of a two-by-two table by hand: 40 (30 · 20 − 10 · 20)² / (40 · 40 · 50 · 30) and so on.
    const cells = ['a,yes', 'a,no', 'b,yes', 'b,no'];
    const often = [30, 10, 20, 20];
    const text = cells.flatMap((cell, i) => Array<string>(often[i] ?? 0).fill(cell)).join('\n');
    const own = request(tableOf(`kind,lost\n${text}\n`), 'lost', 'binary', 'tree');
    const of = (by: ScreenBy) => screenColumns({ ...own, by }, 1)[0];
    expect(of('chi-square')?.statistic).toBeCloseTo((80 * (30 * 20 - 10 * 20) ** 2) / (40 * 40 * 50 * 30), 9);
    expect(of('anova')).toMatchObject({ statistic: null, p: null, q: null, shuffled: null });
  });

  it('that does not vary, or misses all its cells, has none', () => {
    const target = { kind: 'codes', codes: Int32Array.of(0, 1, 0, 1), count: 2 } as const;
    for (const by of SCREENS)
      for (const value of [3, NaN])
        expect(
          statisticOf(by, { kind: 'numbers', values: new Float64Array(4).fill(value) }, target),
        ).toBeNull();
  });

  it('that splits the classes without an error comes first, though its F has no end', () => {
    const own = request(
      tableOf('x,y,lost\n1,0,no\n1,1,no\n1,0,no\n2,1,yes\n2,0,yes\n2,2,yes\n'),
      'lost',
      'binary',
      'tree',
    );
    expect(screenedFeatures({ ...own, by: 'anova' }, 1)).toEqual(['x']);
  });
});

describe('false discovery rates', () => {
  it('are those of Benjamini and Hochberg, 1995, table 1 (values from memory): four of fifteen at 5 %', () => {
    const p = [
      0.0001, 0.0004, 0.0019, 0.0095, 0.0201, 0.0278, 0.0298, 0.0344, 0.0459, 0.324, 0.4262, 0.5719, 0.6528,
      0.759, 1,
    ];
    const q = discoveryRates(p);
    expect(q.filter((value) => (value ?? 1) <= 0.05)).toHaveLength(4);
    expect(q[3]).toBeCloseTo((0.0095 * 15) / 4, 12);
    expect(q).toEqual([...q].sort((a, b) => (a ?? 0) - (b ?? 0)));
    expect(discoveryRates([null, 0.5, null])).toEqual([null, 0.5, null]);
  });

  it('name a column of noise rarely, and what a shuffled target gives is about what noise gives', () => {
    let [named, above, all] = [0, 0, 0];
    for (let trial = 0; trial < 60; trial++) {
      const own = request(noisy(120, 10, 0, 100 + trial), 'lost', 'binary', 'tree');
      for (const by of SCREENS) {
        const found = screenColumns({ ...own, by }, trial);
        if (found.some(({ q }) => (q ?? 1) <= 0.05)) named++;
        above += found.filter(({ statistic, shuffled }) => (statistic ?? 0) > (shuffled ?? 0)).length;
        all += found.length;
      }
    }
    // 180 screenings at 5 %, and 1,800 columns of which 5 % lie above what 95 % of shuffled targets stay below.
    expect(named).toBeLessThan(20);
    expect(Math.abs(above / all - 0.05)).toBeLessThan(0.02);
  });
});

describe('screening outside the folds', () => {
  it('finds in noise what is not there; inside the folds it finds nothing', () => {
    const table = noisy(100, 200, 0, 7);
    const own = request(table, 'lost', 'binary', 'logistic');
    const leak = screeningLeak(own, foldsOf(100), { by: 'anova', keep: 10 }, metricNamed('roc_auc'));
    for (const { inside, outside } of [leak, leak.shuffled]) {
      expect(inside.mean).toBeLessThan(0.65);
      expect(inside.mean).toBeGreaterThan(0.25);
      expect(outside.mean).toBeGreaterThan(0.7);
    }
    expect(leak.folds).toBe(5);
    expect(at(leak.kept, 0).folds).toBeLessThanOrEqual(5);
    expect(leak.kept.length).toBeGreaterThan(20);
  });

  it('of a column that counts makes no difference: both ways keep it', () => {
    const own = request(noisy(400, 5, 1, 3), 'lost', 'binary', 'logistic');
    const leak = screeningLeak(own, foldsOf(400), { by: 'chi-square', keep: 1 }, metricNamed('roc_auc'));
    expect(leak.kept).toEqual([{ column: 'x0', folds: 5 }]);
    expect(leak.inside).toEqual(leak.outside);
    expect(leak.inside.mean).toBeGreaterThan(0.65);
    expect(Math.abs((leak.shuffled.inside.mean ?? 0) - 0.5)).toBeLessThan(0.12);
  });

  it('says so where no column can be kept', () => {
    const own = request(
      tableOf(`kind,lost\n${'a,yes\nb,no\nc,yes\nd,no\n'.repeat(5)}`),
      'lost',
      'binary',
      'tree',
    );
    expect(() => screeningLeak(own, foldsOf(20), { by: 'anova', keep: 3 }, metricNamed('accuracy'))).toThrow(
      'No column can be screened so',
    );
  });
});
