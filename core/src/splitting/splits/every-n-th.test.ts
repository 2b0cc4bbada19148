import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../test/files.js';
import { partition } from './partition.js';
import type { PartitionPlan } from './splitter.js';
import { parseParts } from '../parts/parts.js';
import { type Row, tableFor, plan } from './rows-of-tests.js';

describe('splits that are not drawn', () => {
  it('by every n-th row and by the first rows are exact', () => {
    const rows = Array.from({ length: 10 }, (): Row => [0, 0]);
    expect(Array.from(partition(tableFor(rows), plan({ method: 'every', every: 4 })).parts)).toEqual([
      0, 0, 0, 1, 0, 0, 0, 1, 0, 0,
    ]);
    const first = partition(tableFor(rows), plan({ method: 'first', parts: parseParts('a=3,b=rest') }));
    expect(Array.from(first.parts)).toEqual([0, 0, 0, 1, 1, 1, 1, 1, 1, 1]);
  });

  it('by the values of a column are exact, and say which value names no part', () => {
    const table = tableOf('part\nb\na\nb\n');
    const by = (text: string) =>
      partition(table, plan({ method: 'column', column: 'part', parts: parseParts(text) }));
    expect(Array.from(by('a=0.5,b=0.5').parts)).toEqual([1, 0, 1]);
    expect(() => by('a=0.5,c=0.5')).toThrow('Row 1: part “b” is the name of no part.');
    expect(() => by('a=0.5,c=0.5')).toThrow(
      expect.objectContaining({ code: 'unknown-part', place: { field: 'part' } }),
    );
    const gap = () =>
      partition(
        tableOf('x,part\n1,a\n2,\n'),
        plan({ method: 'column', column: 'part', parts: parseParts('a=1,b=0') }),
      );
    expect(gap).toThrow('Row 2 has no part, so it belongs to no part.');
    expect(gap).toThrow(expect.objectContaining({ code: 'missing-part', place: { field: 'part' } }));
  });
});

describe('golden partitions, which must never change', () => {
  const table = tableFor(Array.from({ length: 24 }, (_, i) => [i % 3, (i * 7) % 24] as const));
  it.each<[Partial<PartitionPlan>, string, string]>([
    [{ method: 'key', identifier: 'id', salt: '' }, 'key@1', 'AAAAAAAABAABAAAABAAAAAAA'],
    [{ method: 'key', identifier: 'id', salt: 'autumn' }, 'key@1', 'AAAABAABAAAAABAAAAABAABA'],
    [{ method: 'time', time: 'day' }, 'time@1', 'AAABAAAAAABAABAAABAABAAA'],
    [{ method: 'random', parts: parseParts('a=10,b=rest'), seed: 7 }, 'random@1', 'BBAAABBBBBBBABBABABAAABA'],
  ])('%j', (over, method, expected) => {
    const split = partition(table, plan(over));
    expect(split.method).toBe(method);
    const letters = Array.from(split.parts, (part) => 'AB'[part]).join('');
    expect(letters).toBe(expected);
  });
});

describe('a split by time of few different times', () => {
  it('leaves a time for each part that is still to come, wherever that is possible', () => {
    const days = [0, 1, 2, 3, 4, 29, 29, 29, 29];
    const table = tableOf(`day\n${days.join('\n')}\n`);
    const parts = parseParts('a=0.5,b=0.25,c=0.25');
    const split = partition(table, { method: 'time', parts, seed: 0, time: 'day' });
    const timesOf = (part: number) => days.filter((_, row) => split.parts[row] === part);
    expect([0, 1, 2].map((part) => timesOf(part).length > 0)).toEqual([true, true, true]);
    expect(Math.max(...timesOf(0))).toBeLessThan(Math.min(...timesOf(1)));
    expect(Math.max(...timesOf(1))).toBeLessThan(Math.min(...timesOf(2)));
    expect(() =>
      partition(tableOf('day\n1\n1\n2\n'), { method: 'time', parts, seed: 0, time: 'day' }),
    ).toThrow('too few different times for 3 parts');
  });
});
