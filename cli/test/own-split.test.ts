import { generatorOf } from '@modest-sieve/core/assessment';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { readTable, newPlan, type PlanValue, type Table } from '@modest-sieve/core/data';
import { Folder } from './sieve.js';

const TEXT = readFileSync(new URL('../../core/test/reference/keys.csv', import.meta.url));
let table: Table;
beforeAll(async () => {
  ({ table } = await readTable(TEXT, { file: 'keys.csv' }));
});

/** The command that a question names, and its keys. */
function keysOf(
  key: string,
  values: Record<string, PlanValue>,
): { words: string[]; keys: (number | null)[] } {
  const kind = generatorOf({ kind: key });
  if (kind.from !== 'data') throw new Error('drawn');
  const { given, asked } = kind.compute(
    { ...newPlan(kind, table.columns).values, ...values },
    {
      ...{ table, validation: null, all: table },
      roles: {
        ...{ target: 'high', task: 'binary', positive: 'yes', identifier: null },
        ...{ group: null, time: null, weight: null, withheld: [] },
      },
    },
  );
  // As a shell would part it: here no name has a blank.
  const words = (given['command'] ?? '').replaceAll('"', '').split(' ').slice(1);
  return { words, keys: asked.map((one) => ('figure' in one ? one.figure.value : null)) };
}
const positive = (rows: readonly string[]) => rows.filter((row) => row.endsWith(',yes')).length;

describe('a key with a seed is what the command in the question gives', () => {
  it.each(['random', 'stratified'])('of a split (%s)', (method) => {
    const { words, keys } = keysOf('own-split', {
      ...{ method, share: 30, seed: 7 },
      asked: ['test rows', 'positive test rows'],
    });
    const folder = new Folder();
    folder.write('training.csv', TEXT);
    expect(folder.run([...words, '--out', 'parts']).code).toBe(0);
    const rows = folder.read('parts/test.csv').trimEnd().split('\n').slice(1);
    expect(keys).toEqual([rows.length, positive(rows)]);
  });

  it.each(['k-fold', 'stratified'])('of folds (%s)', (method) => {
    const { words, keys } = keysOf('own-folds', {
      ...{ method, k: 7, seed: 3 },
      asked: ['test rows of the first fold', 'positive test rows of the first fold'],
    });
    const folder = new Folder();
    folder.write('training.csv', TEXT);
    expect(folder.run([...words, '--assign', 'folds.csv']).code).toBe(0);
    const [header = '', ...lines] = folder.read('folds.csv').trimEnd().split('\n');
    const fold = header.split(',').indexOf('fold');
    const all = TEXT.toString('utf8').trimEnd().split('\n').slice(1);
    const rows = lines.flatMap((line) => {
      const cells = line.split(',');
      return cells[fold] === '1' ? (all[Number(cells[0])] ?? []) : [];
    });
    expect(keys).toEqual([rows.length, positive(rows)]);
  });
});
