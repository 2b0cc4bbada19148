import { describe, expect, it } from '@jest/globals';
import { iris, tableOf } from '../../../test/files.js';
import { draw } from '../../../test/plans.js';
import { splitRows } from './split.js';
import { usableRows } from '../parts/usable.js';
import { partsBy, coded, plan } from './plans-of-tests.js';

describe('golden assignments, which must never change', () => {
  const table = coded(Array.from({ length: 24 }, (_, i) => [i % 3 === 0 ? 1 : 0, i % 7] as const));
  const letters = (over: Parameters<typeof draw>[0]) =>
    Array.from(partsBy(table, over), (part) => 'TVH'[part]).join('');

  it.each<[string, Parameters<typeof draw>[0], number, string]>([
    ['random@1', {}, 0, 'TTVTTTTTHVHTTTTTVTTTTTVH'],
    ['random@1', {}, 2718, 'VTVHTTHTVHTTTTTTVTTTTTTT'],
    ['random@1', {}, 2147483647, 'TTHTTTVTHTTVVTTTTHVTTTTT'],
    ['stratified@1', { stratify: 'class' }, 0, 'TTVTTVVTTTTTTTTTVTHTTTHH'],
    ['stratified@1', { stratify: 'class' }, 2718, 'TVHTVTTVHTTTTTTTTTHTTVTT'],
    ['stratified@1', { stratify: 'class' }, 2147483647, 'THVHVTVTTTTTTTHTTTTTTTVT'],
    ['grouped@1', { group: 'group' }, 0, 'HVTTTTTHVTTTTTHVTTTTTHVT'],
    ['grouped@1', { group: 'group' }, 2718, 'HVTTTTTHVTTTTTHVTTTTTHVT'],
    ['grouped@1', { group: 'group' }, 2147483647, 'VHTTTTTVHTTTTTVHTTTTTVHT'],
    ['stratified-grouped@1', { stratify: 'class', group: 'group' }, 0, 'THTTVTTTHTTVTTTHTTVTTTHT'],
    ['stratified-grouped@1', { stratify: 'class', group: 'group' }, 2718, 'THTTTTVTHTTTTVTHTTTTVTHT'],
    ['stratified-grouped@1', { stratify: 'class', group: 'group' }, 2147483647, 'TVTTTTHTVTTTTHTVTTTTHTVT'],
  ])('%s with seed %i', (method, over, seed, expected) => {
    expect(splitRows(table, plan(over)).method).toBe(method);
    expect(letters({ ...over, seed })).toBe(expected);
  });
});

describe('impossible plans', () => {
  it.each([
    [{ shares: { training: 80, validation: 0, heldout: 10 } }, 'The shares make 90 %, not 100 %.'],
    [
      { shares: { training: 100, validation: 0, heldout: 0 } },
      'share of training rows in percent is at most 99.',
    ],
    [
      { shares: { training: 0, validation: 50, heldout: 50 } },
      'share of training rows in percent is at least 1.',
    ],
    [{ seed: -1 }, 'seed is at least 0.'],
    [{ seed: 1.5 }, 'seed: a whole number is needed.'],
  ])('%j is refused', (over, message) => {
    expect(() => partsBy(iris(), over)).toThrow(message);
  });

  it('says why two groups cannot make three parts', () => {
    const table = coded([
      [0, 0],
      [0, 0],
      [0, 1],
      [0, 1],
      [0, 1],
    ]);
    expect(() => partsBy(table, { group: 'group' })).toThrow(
      '2 groups of group cannot make 3 parts without being split.',
    );
  });

  it('names the row that has no group', () => {
    const table = tableOf('id,group\n1,a\n2,\n3,b\n4,c\n5,d\n6,e\n');
    expect(() => partsBy(table, { group: 'group' })).toThrow('Row 2 has no group');
  });

  it('names an unknown column', () => {
    expect(() => partsBy(iris(), { stratify: 'colour' })).toThrow('There is no column “colour”.');
  });
});

describe('rows that can be split', () => {
  const roles = { target: 'y', identifier: 'id' };

  it('leaves out rows without a label', () => {
    const { usable, unlabelled, repeated } = usableRows(tableOf('id,x,y\na,1,p\nb,2,\nc,3,q\n'), roles);
    expect(Array.from(usable)).toEqual([1, 0, 1]);
    expect([unlabelled, repeated]).toEqual([1, 0]);
  });

  it('refuses an identifier that is in two different rows', () => {
    expect(() => usableRows(tableOf('id,x,y\na,1,p\nb,2,q\na,3,p\n'), roles)).toThrow(
      'id a is in rows 1 and 3',
    );
  });

  it('refuses a row without an identifier', () => {
    expect(() => usableRows(tableOf('id,x,y\na,1,p\n,2,q\n'), roles)).toThrow('Row 2 has no id');
  });
});
