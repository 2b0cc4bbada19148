import { describe, expect, it } from '@jest/globals';
import { COLONIES, Folder } from './sieve.js';

const folderWith = (files: Record<string, string>) => {
  const folder = new Folder();
  for (const [name, content] of Object.entries(files)) folder.write(name, content);
  return folder;
};

describe('sieve check-split', () => {
  it('ends with 1 where a promise is broken, and says which', () => {
    const rows = COLONIES.trim().split('\n').slice(1);
    const folder = folderWith({
      'colonies.csv': COLONIES,
      'a.csv': `row,part\n${rows.map((_, i) => `${i},${i % 5 === 0 ? 'heldout' : 'train'}`).join('\n')}\n`,
    });
    const { code, out } = folder.run([
      'check-split',
      'colonies.csv',
      'a.csv',
      '--group',
      'apiary',
      '--time',
      'day',
      '--json',
    ]);
    expect(code).toBe(1);
    const { holds, checks } = JSON.parse(out) as {
      holds: boolean;
      checks: { id: string; outcome: string }[];
    };
    expect(holds).toBe(false);
    expect(checks.filter((check) => check.outcome === 'fails').map((check) => check.id)).toEqual([
      'groups',
      'time',
    ]);
  });

  it('finds rows that stand twice, that are unknown, and that are in no part', () => {
    const folder = folderWith({
      'colonies.csv': COLONIES,
      'a.csv': 'row,part\n0,train\n0,heldout\n1,heldout\n99,train\n2,train\n',
    });
    const { code, out } = folder.run(['check-split', 'colonies.csv', 'a.csv']);
    expect(code).toBe(1);
    expect(out).toContain('line 5: row “99” is not in the table');
    expect(out).toContain('line 3: row 0 is on an earlier line too');
    expect(out).toContain('27 rows in no part');
  });
});

describe('sieve folds', () => {
  it('lists folds, and writes for each row the fold in which it is tested', () => {
    const folder = folderWith({ 'colonies.csv': COLONIES });
    const { folds } = folder.json([
      'folds',
      'colonies.csv',
      '--k',
      '3',
      '--repeats',
      '2',
      '--stratify',
      'outcome',
      '--seed',
      '1',
      '--id',
      'colony',
      '--assign',
      'f.csv',
    ]);
    expect(folds).toHaveLength(6);
    expect(folds).toContainEqual({
      repeat: 2,
      fold: 3,
      rows: 10,
      training: 20,
      classes: { alive: expect.any(Number), lost: expect.any(Number) },
    });
    const lines = folder.read('f.csv').trim().split('\n');
    expect([lines[0], lines.length]).toEqual(['colony,repeat,fold', 61]);
  });

  it('says on standard error that a class is too small, and keeps standard output clean', () => {
    const folder = folderWith({ 'x.csv': 'y\na\na\na\na\nb\n' });
    const { code, out, said } = folder.run([
      'folds',
      'x.csv',
      '--k',
      '3',
      '--stratify',
      'y',
      '--seed',
      '0',
      '--json',
    ]);
    expect(code).toBe(0);
    expect(() => JSON.parse(out) as unknown).not.toThrow();
    expect(said).toContain('“b” of y has 1 row, fewer than the 3 folds');
  });
});
