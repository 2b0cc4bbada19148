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
