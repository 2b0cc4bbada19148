import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../test/files.js';
import { prepare } from '../../data/prepare/prepare.js';
import type { Roles } from '../../data/table/roles.js';
import { findingsOf } from './findings.js';

const roles: Roles = {
  target: 'lost',
  task: 'binary',
  positive: 'yes',
  identifier: 'id',
  group: null,
  time: null,
  weight: null,
  withheld: [],
};
/** Forty colonies: names, a column that gives the answer away, blanks in two columns, a repeated row, no label once. */
const rows = Array.from({ length: 40 }, (_, i) => {
  const lost = (i * 7) % 3 === 0 ? 'yes' : 'no';
  return [
    `h${i}`,
    lost === 'yes' ? 0 : 9,
    i % 4 === 0 ? '' : (i * 13) % 17,
    i % 8 === 1 ? '' : (i * 5) % 11,
    'oak',
    i === 5 ? '' : lost,
  ].join(',');
});
const table = tableOf(`id,spring,mites,stores,tree,lost\n${[...rows, rows[7]].join('\n')}\n`);

describe('what a look finds', () => {
  const { findings, strengths, complete } = findingsOf(table, roles);
  const of = (text: string) => findings.find(({ message }) => message.includes(text));

  it('rows without a label, repeated rows, columns that say nothing or too much, each with its step', () => {
    expect(of('1 row has no lost')?.fix).toEqual({
      kind: 'drop-missing',
      values: { how: 'any', columns: ['lost'] },
    });
    expect(of('tree has the same value in every row')?.fix?.values).toEqual({ columns: ['tree'] });
    // A column that tells too much is judged by itself; only what tells nothing goes together.
    expect(findings.filter(({ isUninformative }) => isUninformative).map(({ column }) => column)).toEqual([
      'tree',
    ]);
    expect(findings.find(({ column, fix }) => column === 'spring' && fix)?.fix?.kind).toBe('drop-columns');
    expect(findings.some(({ fix }) => fix?.kind === 'drop-repeated')).toBe(true);
  });

  it('and those steps fix it: done, they are not found again', () => {
    const steps = findings.flatMap(({ fix }) => fix ?? []);
    const { table: fixed, effects } = prepare(table, steps);
    expect(effects.every(({ problem }) => problem === null)).toBe(true);
    expect(findingsOf(fixed, roles).findings.filter(({ fix }) => fix !== null)).toEqual([]);
  });

  it('how strongly columns go with the target', () => {
    const spring = strengths.find(({ column }) => column === 'spring');
    expect(spring).toMatchObject({ measure: 'correlation ratio, corrected' });
    expect(spring?.value).toBeCloseTo(1, 10);
    expect(strengths.some(({ column }) => column === 'lost')).toBe(false);
  });

  it('how many rows are complete as columns with blanks go, the costliest first', () => {
    // By hand: 10 rows lack mites, 5 others lack stores, and one other the label.
    expect(complete).toEqual([
      { without: null, rows: 25 },
      { without: 'mites', rows: 35 },
      { without: 'stores', rows: 40 },
      { without: 'lost', rows: 41 },
    ]);
  });

  it('without a target, only what needs none', () => {
    const alone = findingsOf(table, null);
    expect(alone.strengths).toEqual([]);
    expect(alone.findings.map(({ column }) => column)).toEqual(['id', 'tree', null]);
  });
});
