import { generatorOf } from '@modest-sieve/core/assessment';
import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { readTable, newPlan } from '@modest-sieve/core/data';
import { Folder } from './sieve.js';

describe('a key of a seeded split', () => {
  it('is what the command in the question gives', async () => {
    const text = readFileSync(new URL('../../core/test/reference/keys.csv', import.meta.url));
    const { table } = await readTable(text, { file: 'keys.csv' });
    const kind = generatorOf({ kind: 'own-split' });
    if (kind.from !== 'data') throw new Error('drawn');
    const roles = { target: 'high', task: 'binary', positive: 'yes', identifier: null } as const;
    for (const method of ['random', 'stratified']) {
      const { given, asked } = kind.compute(
        {
          ...newPlan(kind, table.columns).values,
          ...{ method, share: 30, seed: 7, asked: ['test rows', 'positive test rows'] },
        },
        {
          ...{ table, validation: null, all: table },
          roles: { ...roles, group: null, time: null, weight: null, withheld: [] },
        },
      );
      const folder = new Folder();
      folder.write('training.csv', text);
      // As a shell would part it: here no name has a blank.
      const words = (given['command'] ?? '').replaceAll('"', '').split(' ').slice(1);
      const { code } = folder.run([...words, '--out', 'parts']);
      expect(code).toBe(0);
      const rows = folder.read('parts/test.csv').trimEnd().split('\n').slice(1);
      expect(asked.map((one) => ('figure' in one ? one.figure.value : null))).toEqual([
        rows.length,
        rows.filter((row) => row.endsWith(',yes')).length,
      ]);
    }
  });
});
