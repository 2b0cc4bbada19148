import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { iris, tableOf } from '../../../test/files.js';
import { at } from '../../foundation/numbers.js';
import { partition, type Partition } from './partition.js';
import type { PartitionPlan } from './splitter.js';
import { parseParts } from '../parts/parts.js';
import { LARGEST_SEED } from '../../foundation/random/random.js';
import { type Row, tableFor, plan } from './rows-of-tests.js';

const rowsArbitrary = fc.array(fc.tuple(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 30 })), {
  minLength: 8,
  maxLength: 120,
});

const rowsIn = ({ parts }: Partition, part: number) =>
  Array.from(parts.keys()).filter((row) => parts[row] === part);

describe('what a plan needs', () => {
  const table = tableFor(Array.from({ length: 10 }, (_, i) => [i % 2, i] as const));
  it.each([
    [{ method: 'by magic' as never }, 'There is no method “by magic”.', 'method'],
    [{ method: 'stratified' }, 'A split stratified by a column needs stratify.', 'stratify'],
    [
      { method: 'time', time: 'day', cutOff: '3', parts: parseParts('a=0.5,b=0.25,c=0.25') },
      'A cut-off makes exactly two parts.',
      'cut-off',
    ],
    [{ method: 'time', time: 'day', gap: -1 }, 'A gap is a number, 0 or more.', 'gap'],
    [{ seed: -1 }, 'A seed is a whole number from 0', 'seed'],
    [{ seed: 1.5 }, 'A seed is a whole number from 0', 'seed'],
    [{ seed: LARGEST_SEED + 1 }, 'A seed is a whole number from 0', 'seed'],
  ] as const)('is said with the name of the setting: %j', (over, words, field) => {
    const made = () => partition(table, plan(over));
    expect(made).toThrow(words);
    expect(made).toThrow(expect.objectContaining({ code: 'split-plan', place: { field } }));
  });

  it('takes the least and the largest seed', () => {
    for (const seed of [0, LARGEST_SEED]) expect(partition(table, plan({ seed })).parts).toHaveLength(10);
  });
});

describe('parts', () => {
  it('are shares, numbers of rows, or the rest', () => {
    expect(parseParts('train=0.8, heldout=0.2')).toEqual([
      { name: 'train', share: 0.8 },
      { name: 'heldout', share: 0.2 },
    ]);
    expect(parseParts('train=rest,heldout=40')).toEqual([
      { name: 'train', rest: true },
      { name: 'heldout', rows: 40 },
    ]);
  });

  it.each([
    ['train=0.8,heldout=0.3', 'The shares make 1.1, not 1.'],
    ['train=0.8', 'A split has at least two parts.'],
    ['train=0.5,train=0.5', 'Two parts are called “train”.'],
    ['train=rest,heldout=rest', 'Only one part can take the rest.'],
    ['train=10,heldout=2.5', 'heldout: 2.5 is no whole number of rows.'],
    ['train=most,heldout=0.2', '“most” is no share and no number of rows.'],
    ['train,heldout=0.2', '“train” is no part: it is a name, =, and a share, a number of rows, or “rest”.'],
    ['../x=0.5,y=0.5', '“../x” cannot name a part'],
  ])('%s are refused', (text, message) => {
    expect(() => parseParts(text)).toThrow(message);
  });

  it('by numbers of rows are met exactly, and must fit', () => {
    const split = partition(iris(), plan({ parts: parseParts('a=rest,b=31,c=17') }));
    expect([0, 1, 2].map((part) => rowsIn(split, part).length)).toEqual([102, 31, 17]);
    expect(() => partition(iris(), plan({ parts: parseParts('a=100,b=51') }))).toThrow(
      'The parts take 151 rows, and there are 150.',
    );
    expect(() => partition(iris(), plan({ parts: parseParts('a=100,b=20') }))).toThrow(
      'The parts take 120 of 150 rows; size one of them “rest”.',
    );
  });

  it('a further one takes rows without a label', () => {
    const table = tableOf('x,y\n1,a\n2,\n3,b\n4,\n5,a\n6,b\n');
    const split = partition(table, plan({ unlabelled: { name: 'unknown', target: 'y' } }));
    expect(split.names).toEqual(['train', 'heldout', 'unknown']);
    expect(rowsIn(split, 2)).toEqual([1, 3]);
  });
});

describe('a split by time', () => {
  it('puts every row of an earlier part before every row of a later one, by the gap, and cuts no time', () => {
    fc.assert(
      fc.property(rowsArbitrary, fc.integer({ min: 0, max: 4 }), (rows, gap) => {
        fc.pre(new Set(rows.map(([, d]) => d)).size >= 6);
        const split = partition(
          tableFor(rows),
          plan({ method: 'time', time: 'day', gap, parts: parseParts('a=0.5,b=0.25,c=0.25') }),
        );
        const days = [0, 1, 2].map((part) => rowsIn(split, part).map((row) => at(rows, row)[1]));
        for (const [early, late] of [
          [0, 1],
          [1, 2],
        ] as const) {
          const first = Math.min(...at(days, late));
          for (const d of at(days, early)) expect(first - d).toBeGreaterThan(gap);
        }
        if (gap === 0) expect(days.flat()).toHaveLength(rows.length);
        expect(at(days, 2).length).toBeGreaterThan(0);
      }),
    );
  });

  it('comes as near to the shares as whole times allow', () => {
    const rows = Array.from({ length: 100 }, (_, i): Row => [0, Math.floor(i / 10)]);
    const split = partition(
      tableFor(rows),
      plan({ method: 'time', time: 'day', parts: parseParts('a=0.72,b=0.28') }),
    );
    expect([0, 1].map((part) => rowsIn(split, part).length)).toEqual([70, 30]);
  });

  it('cuts at a date, which belongs to the later part', () => {
    const table = tableOf('t\n2024-05-01\n2024-05-02\n2024-05-04\n2024-04-30\n');
    const split = partition(table, plan({ method: 'time', time: 't', cutOff: '2024-05-02', gap: 1 }));
    expect(Array.from(split.parts)).toEqual([-1, 1, 1, 0]);
  });

  it.each<[Partial<PartitionPlan>, string]>([
    [{ time: 'day', cutOff: 'May' }, '“May” is no number to cut day at.'],
    [{ time: 'class' }, 'class is a column of texts: it has no order in time.'],
    [{ time: 'day', gap: -1 }, 'A gap is a number, 0 or more.'],
    [{ time: 'day', cutOff: '99' }, 'With the cut-off 99, heldout has no rows.'],
    [{}, 'A split by time needs time.'],
  ])('%j is refused', (over, message) => {
    const rows: Row[] = [
      [0, 1],
      [1, 2],
      [0, 3],
    ];
    expect(() => partition(tableFor(rows), plan({ method: 'time', ...over }))).toThrow(message);
  });

  it('says when there are too few times, and which row has none', () => {
    expect(() => partition(tableOf('t\n1\n1\n1\n'), plan({ method: 'time', time: 't' }))).toThrow(
      't has too few different times for 2 parts.',
    );
    expect(() => partition(tableOf('x,t\n1,1\n2,\n3,4\n'), plan({ method: 'time', time: 't' }))).toThrow(
      'Row 2 has no t, so it has no place in time.',
    );
  });
});

describe('a split by the identifier', () => {
  it('does not move a row when others are added, taken away or put in another order', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.string({ minLength: 1, maxLength: 8, unit: 'grapheme-ascii' }), {
          minLength: 4,
          maxLength: 60,
        }),
        fc.string({ maxLength: 4 }),
        (ids, salt) => {
          const clean = [...new Set(ids.map((id) => `k${id.replace(/[",\s]/g, '')}`))];
          fc.pre(clean.length >= 4);
          const partOf = (order: readonly string[]) => {
            const split = partition(
              tableOf(`id\n${order.join('\n')}\n`),
              plan({ method: 'key', identifier: 'id', salt }),
            );
            return new Map(order.map((id, row) => [id, split.parts[row]]));
          };
          const all = partOf(clean);
          const some = partOf(clean.slice(0, 3).reverse());
          for (const [id, part] of some) expect(part).toBe(all.get(id));
        },
      ),
    );
  });

  it('comes near the shares, and another salt gives another split', () => {
    const table = tableOf(`id\n${Array.from({ length: 20_000 }, (_, i) => `r${i}`).join('\n')}\n`);
    const split = (salt: string) => partition(table, plan({ method: 'key', identifier: 'id', salt }));
    const [a, b] = [split('a'), split('b')];
    // 20,000 rows at 20 %: 4,000 with a standard deviation of 57.
    for (const one of [a, b]) expect(Math.abs(rowsIn(one, 1).length - 4000)).toBeLessThan(5 * 57);
    const both = rowsIn(a, 1).filter((row) => b.parts[row] === 1).length;
    expect(Math.abs(both - 800)).toBeLessThan(5 * 28);
  });

  it('is sized by shares alone', () => {
    expect(() =>
      partition(iris(), plan({ method: 'key', identifier: 'target', parts: parseParts('a=100,b=rest') })),
    ).toThrow('Parts of a split by the identifier are sized by shares');
  });
});
