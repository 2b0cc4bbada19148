import { describe, expect, it } from '@jest/globals';
import { readTable } from '@modest-sieve/core/data';
import { foldPlanOf, makeFolds, PART_NAMES, splitRows } from '@modest-sieve/core/splitting';
import { Folder } from './sieve.js';

/** Thirty rows, of which the last twenty repeat the first ten. */
const COARSE = `day,kind\n${Array.from({ length: 30 }, (_, i) => `${i % 10},${'ab'[i % 2]}`).join('\n')}\n`;
const folder = new Folder();
folder.write('coarse.csv', COARSE);

/** Values of a column of an assignment by its row. */
const assigned = (file: string, column: number) =>
  new Map(
    folder
      .read(file)
      .trimEnd()
      .split('\n')
      .slice(1)
      .map((line) => line.split(','))
      .map((cells) => [Number(cells[0]), cells[column]]),
  );

describe.each(['keep', 'together', 'drop'])('repeated rows: %s', (repeatedRows) => {
  it('sieve split does what the sentence of a split does', async () => {
    const { table } = await readTable(new TextEncoder().encode(COARSE), { file: 'coarse.csv' });
    const plan = {
      kind: 'draw',
      values: {
        ...{ sized: 'percent', training: 70, validation: 0, heldout: 30, stratify: 'kind', group: '' },
        ...{ seed: 4, repeatedRows },
      },
    };
    const parts = [...splitRows(table, plan).parts].map((part) => PART_NAMES[part]);
    folder.json([
      ...['split', 'coarse.csv', '--parts', 'training=0.7,heldout=0.3', '--stratify', 'kind', '--seed', '4'],
      ...['--repeated-rows', repeatedRows, '--assign', 'parts.csv'],
    ]);
    const written = assigned('parts.csv', 1);
    expect(Array.from({ length: 30 }, (_, row) => written.get(row))).toEqual(parts);
    expect(written.size).toBe(repeatedRows === 'drop' ? 10 : 30);
  });

  it('sieve folds does what the sentence of folds does', async () => {
    const { table } = await readTable(new TextEncoder().encode(COARSE), { file: 'coarse.csv' });
    const plan = {
      kind: 'draw',
      values: { k: 3, stratify: '', group: '', repeats: 1, seed: 4, repeatedRows },
    };
    const [tests = new Int32Array()] = makeFolds(table, foldPlanOf(plan, table.columns)).tests;
    folder.json([
      ...['folds', 'coarse.csv', '--k', '3', '--seed', '4'],
      ...['--repeated-rows', repeatedRows, '--assign', 'folds.csv'],
    ]);
    const written = assigned('folds.csv', 2);
    expect(Array.from(tests, (_, row) => Number(written.get(row)))).toEqual(
      Array.from(tests, (fold) => fold + 1),
    );
  });
});

it('a word that is none of the three is refused', () => {
  const { code, said } = folder.run([
    ...['split', 'coarse.csv', '--parts', 'train=0.7,heldout=0.3', '--seed', '1', '--repeated-rows', 'twice'],
  ]);
  expect(code).toBe(2);
  expect(said).toContain('keep, together, drop');
  expect(said.trimEnd().split('\n')).toHaveLength(1);
});
