import { describe, expect, it } from '@jest/globals';
import { fileURLToPath } from 'node:url';
import { COLONIES, Folder } from './sieve.js';

const reference = (path: string) => fileURLToPath(new URL(`../../core/test/${path}`, import.meta.url));
const folderWith = (files: Record<string, string>) => {
  const folder = new Folder();
  for (const [name, content] of Object.entries(files)) folder.write(name, content);
  return folder;
};

describe('sieve profile', () => {
  it('gives the figures of every column', () => {
    const { rows, columns, correlations } = new Folder().json(['profile', reference('open-data/iris.csv')]);
    expect(rows).toBe(150);
    const [sepal] = columns as Record<string, unknown>[];
    // Skewness and kurtosis as pandas 1.5.3 gives them.
    expect(sepal).toMatchObject({
      name: 'sepal_length',
      type: 'number',
      missing: 0,
      distinct: 35,
      min: 4.3,
      q1: 5.1,
      median: 5.8,
      q3: 6.4,
      max: 7.9,
      skewness: expect.closeTo(0.3149109566369728, 10),
      kurtosis: expect.closeTo(-0.5520640413156395, 10),
    });
    expect((correlations as { columns: string[] }).columns).toHaveLength(4);
  });

  it('reads standard input, and finds with a target what gives the answers away', () => {
    const folder = folderWith({});
    const { out, code } = folder.run(['profile', '-', '--target', 'outcome', '--json'], COLONIES);
    expect(code).toBe(0);
    const { leaks } = JSON.parse(out) as { leaks: { kind: string; column: string }[] };
    expect(leaks).toContainEqual(expect.objectContaining({ kind: 'identifier', column: 'colony' }));
  });

  it('says dates as dates, and what stopped a column from being numeric', () => {
    const folder = folderWith({
      'x.csv': 'seen,mites\n2024-05-01,1\n2024-05-03,2\n2024-05-02,3\n2024-05-04,4\n2024-05-05,many\n',
    });
    const { columns } = folder.json(['profile', 'x.csv']);
    expect(columns).toMatchObject([
      { type: 'time', min: '2024-05-01', median: '2024-05-03', max: '2024-05-05' },
      { note: '1 of 5 cells are not numbers, the first “many” on line 6' },
    ]);
  });

  it('uses threads for a large table, and finds the same', () => {
    const lines = Array.from(
      { length: 400_000 },
      (_, i) =>
        `${i},${(i * 7919) % 1000},${i % 3 ? 'alive' : 'lost'},"a, b",2024-01-${String((i % 28) + 1).padStart(2, '0')},0.${i},xxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxx`,
    );
    const folder = folderWith({ 'large.csv': `id,m,o,q,d,f,x\n${lines.join('\n')}\n` });
    const { rows, columns } = folder.json(['profile', 'large.csv']);
    expect(rows).toBe(400_000);
    expect(columns).toMatchObject([
      { type: 'number', distinct: 400_000, min: 0, max: 399_999 },
      { type: 'number', distinct: 1000 },
      {
        top: [
          { value: 'alive', count: 266_666 },
          { value: 'lost', count: 133_334 },
        ],
      },
      { top: [{ value: 'a, b', count: 400_000 }] },
      { type: 'time', distinct: 28 },
      { type: 'number' },
      { distinct: 1 },
    ]);
  });
});

describe('sieve split', () => {
  const line = ['split', 'colonies.csv', '--parts', 'train=0.8,heldout=0.2', '--seed', '7'];

  it('writes a file for each part and the assignment, which the check accepts', () => {
    const folder = folderWith({ 'colonies.csv': COLONIES });
    const { parts, method } = folder.json([
      ...line,
      '--group',
      'apiary',
      '--id',
      'colony',
      '--target',
      'outcome',
      '--out',
      'parts',
      '--assign',
      'assignment.csv',
    ]);
    expect(method).toBe('grouped@1');
    expect(parts).toMatchObject([
      { name: 'train', rows: 25, classes: { alive: expect.any(Number) } },
      { name: 'heldout', rows: 5 },
    ]);
    const rows = (name: string) => folder.read(name).trim().split('\n').slice(1);
    expect([...rows('parts/train.csv'), ...rows('parts/heldout.csv')].sort()).toEqual(
      COLONIES.trim().split('\n').slice(1).sort(),
    );
    expect(folder.read('assignment.csv')).toMatch(/^colony,part\nc0,/);
    const check = folder.run([
      'check-split',
      'colonies.csv',
      'assignment.csv',
      '--id',
      'colony',
      '--group',
      'apiary',
      '--parts',
      'train=0.8,heldout=0.2',
    ]);
    expect([check.code, check.out]).toEqual([0, expect.stringContaining('6 values of apiary, none split')]);
  });

  it('parts by time, by key, by every n-th row, in order and by a column', () => {
    const folder = folderWith({ 'colonies.csv': COLONIES });
    const method = (...more: string[]) => folder.json([...line, ...more])['method'];
    expect(method('--time', 'day')).toBe('time@1');
    expect(method('--time', 'day', '--cut-off', '20', '--gap', '2')).toBe('time@1');
    expect(method('--id', 'colony', '--salt', 'x')).toBe('key@1');
    expect(method('--every', '5')).toBe('every@1');
    expect(method('--method', 'first')).toBe('first@1');
    expect(
      folder.json([
        'split',
        'colonies.csv',
        '--parts',
        'alive=0.5,lost=0.5',
        '--column',
        'outcome',
        '--seed',
        '0',
      ])['parts'],
    ).toMatchObject([
      { name: 'alive', rows: 20 },
      { name: 'lost', rows: 10 },
    ]);
  });

  it('writes parts as Parquet and JSON, and reads them again', () => {
    const folder = folderWith({ 'colonies.csv': COLONIES });
    for (const format of ['parquet', 'json']) {
      folder.json([...line, '--out', format, '--format', format]);
      const { rows, columns } = folder.json(['profile', `${format}/train.${format}`]);
      expect(rows).toBe(24);
      expect(columns).toMatchObject([
        { name: 'colony' },
        { name: 'apiary', type: 'category' },
        { name: 'day', type: 'number' },
        { name: 'mites', type: 'number' },
        { name: 'outcome', distinct: 2 },
      ]);
    }
  });

  it('writes nothing at all where one of the files cannot be written', () => {
    const folder = folderWith({ 'colonies.csv': COLONIES, taken: 'a file' });
    const { code, said, out } = folder.run([...line, '--out', 'parts', '--assign', 'taken/assignment.csv']);
    expect([code, out]).toEqual([2, '']);
    expect(said).toContain('taken/assignment.csv cannot be written: a file is in the way.');
    expect(folder.names).toEqual(['colonies.csv', 'parts', 'taken']);
    expect(folder.run(['profile', 'parts/train.csv']).said).toContain('there is no such file');
  });
});

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
