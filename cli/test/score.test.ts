import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Folder } from './sieve.js';

const reference = (path: string) => fileURLToPath(new URL(`../../core/test/${path}`, import.meta.url));
const folderWith = (files: Record<string, string>) => {
  const folder = new Folder();
  for (const [name, content] of Object.entries(files)) folder.write(name, content);
  return folder;
};

describe('sieve score', () => {
  it.each(['binary', 'binary-ties-weights', 'multiclass-wine', 'multiclass-iris', 'regression'])(
    '%s: gives every figure of the reference libraries',
    (name) => {
      const { expected, tolerance } = JSON.parse(
        readFileSync(reference(`reference/${name}/expected.json`), 'utf8'),
      ) as { expected: Record<string, number>; tolerance: number };
      const weights = name.endsWith('weights') ? ['--weight', 'w'] : [];
      const { metrics, confusion } = new Folder().json([
        'score',
        '--truth',
        reference(`reference/${name}/truth.csv`),
        '--pred',
        reference(`reference/${name}/pred.csv`),
        '--id',
        'id',
        '--target',
        'target',
        ...weights,
      ]);
      const found = metrics as Record<string, number>;
      for (const [key, value] of Object.entries(expected)) {
        if (key === 'confusion') expect((confusion as { counts: unknown }).counts).toEqual(value);
        else
          expect(Math.abs((found[key] ?? NaN) - value)).toBeLessThan(
            tolerance * Math.max(1, Math.abs(value)),
          );
      }
    },
  );

  it('gives intervals, subgroups, classes and reasons', () => {
    const folder = folderWith({
      'truth.csv': 'id,y,g\n1,no,a\n2,yes,a\n3,no,b\n4,yes,b\n5,no,b\n6,yes,b\n',
      'pred.csv': 'id,probability\n1,0.1\n2,0.9\n3,0.6\n4,0.7\n5,0.2\n6,0.4\n',
    });
    const line = ['score', '--truth', 'truth.csv', '--pred', 'pred.csv', '--id', 'id', '--target', 'y'];
    const scored = folder.json([
      ...line,
      '--by',
      'g',
      '--interval',
      '0.9',
      '--bootstrap',
      '200',
      '--seed',
      '1',
    ]);
    expect(scored).toMatchObject({
      task: 'binary',
      n: 6,
      derived: 'labels from probabilities',
      by: [
        { value: 'a', n: 2, metrics: { accuracy: 1 } },
        { value: 'b', n: 4, metrics: { accuracy: 0.5 } },
      ],
      intervals: {
        accuracy: { method: 'Wilson' },
        roc_auc: { method: 'DeLong' },
        f1: { method: 'bootstrap' },
      },
    });
    const constant = folderWith({
      'truth.csv': 'id,y\n1,no\n2,no\n3,yes\n',
      'pred.csv': 'id,prediction\n1,no\n2,no\n3,no\n',
    });
    expect(constant.json(line)).toMatchObject({
      metrics: { precision: null, roc_auc: null },
      undefined: { precision: 'no row was predicted positive', roc_auc: 'no probabilities were given' },
    });
  });
});

describe('sieve compare', () => {
  it('says where two files differ, and tests them against the truth', () => {
    const folder = folderWith({
      'truth.csv': 'id,y\n1,no\n2,yes\n3,no\n4,yes\n',
      'a.csv': 'id,prediction\n1,no\n2,yes\n3,no\n4,no\n',
      'b.csv': 'id,prediction\n4,no\n3,yes\n2,yes\n1,no\n',
    });
    expect(
      folder.json(['compare', 'a.csv', 'b.csv', '--id', 'id', '--truth', 'truth.csv', '--target', 'y']),
    ).toMatchObject({
      n: 4,
      agreement: 0.75,
      differs: [{ id: '3', a: 'no', b: 'yes', truth: 'no' }],
      tests: { mcnemar: { onlyFirst: 1, onlySecond: 0, p: 1 }, delong: null },
    });
    expect(folder.json(['compare', 'a.csv', 'b.csv', '--id', 'id'])).toMatchObject({
      n: 4,
      differs: [{ truth: null }],
    });
  });

  it('reads one of them from standard input, and refuses one that names a row twice', () => {
    const folder = folderWith({ 'b.csv': 'id,prediction\n2,yes\n1,no\n' });
    const compared = folder.run(
      ['compare', '-', 'b.csv', '--id', 'id', '--json'],
      'id,prediction\n1,no\n2,no\n',
    );
    expect([compared.code, JSON.parse(compared.out)]).toMatchObject([0, { n: 2, agreement: 0.5 }]);
    const twice = folder.run(['compare', '-', 'b.csv', '--id', 'id'], 'id,prediction\n1,no\n1,no\n');
    expect([twice.code, twice.said]).toEqual([2, '-, row 2: id 1 is in an earlier row too.\n']);
  });
});
