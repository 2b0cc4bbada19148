import { describe, expect, it } from '@jest/globals';
import { strToU8, zipSync } from 'fflate';
import { asked, begun, fileOf, material, SUBJECT } from '../../../../test/asked.js';
import type { Result } from '../../disclosure/result.js';
import { FOLDS_SLIPS, SPLIT_SLIPS } from './assignment-slips.js';
import { all, text } from './files-of-tests.js';
import { UNREAD_FOLDS_SLIPS, UNREAD_SPLIT_SLIPS } from './unread-rows.js';

const ids = ({ slips = [] }: Result): string[] => slips.map(({ id }) => id);
const rowsOf = (name: string, cell: (row: number) => string | number, rows: readonly number[] = all) =>
  text(`colony,${name}\n${rows.map((row) => `c${row},${cell(row)}`).join('\n')}\n`);

/** The place of a row where identifiers are sorted as texts. */
const sorted = all.map((row) => `c${row}`).sort();
const ranked = (row: number): number => sorted.indexOf(`c${row}`);
/** Rows sorted by their class: those that survived last. */
const survived = (row: number): number => (((row === 7 ? 2 : row) * 7) % 10 < 6 ? 1 : 0);
const byClass = all.slice().sort((a, b) => survived(a) - survived(b));

describe('slips in splits', () => {
  const plain = { within: 5, sharesWithin: 2, group: '', stratify: '', time: '', twins: 'anywhere' };
  const hand = (values: Record<string, string | number>, part: (row: number) => string, rows = all) =>
    ids(asked(begun('split', { values: { ...plain, ...values } })).hand(rowsOf('part', part, rows)));
  const fifth = (row: number) => (row % 5 === 0 ? 'test' : 'training');
  const last = (row: number) => (row < 72 ? 'training' : 'test');

  const MADE: readonly (readonly [slip: string, found: () => string[]])[] = [
    ['fractions-exchanged', () => hand({}, (row) => (row % 5 === 0 ? 'training' : 'test'))],
    ['groups-cut', () => hand({ group: 'apiary' }, fifth)],
    [
      'not-stratified',
      // A test part of which most survived, though not all.
      () =>
        hand({ stratify: 'survived' }, (row) =>
          row % 9 === 4 || (survived(row) === 1 && row % 5 === 0) ? 'test' : 'training',
        ),
    ],
    ['first-rows-taken', () => hand({ within: 1 }, (row) => (ranked(row) < 50 ? 'training' : 'test'))],
    ['shuffled-in-time', () => hand({ time: 'day' }, fifth)],
    [
      'overlap',
      () =>
        hand({}, (row) => (row < 20 ? 'test' : 'training'), [
          ...all,
          ...all.slice(20, 30),
          ...all.slice(0, 0),
        ]),
    ],
  ];

  it.each(MADE.slice(0, 5))('%s is named where it was made', (slip, found) => {
    expect(found()).toContain(slip);
  });

  it('that overlap are named though such a file cannot be marked', () => {
    const question = asked(begun('split', { values: { ...plain, training: 60, validation: 20 } }));
    const lines = (second: string) =>
      text(
        `colony,part\n${all.map((row) => `c${row},training`).join('\n')}\n${all
          .slice(0, 12)
          .map((row) => `c${row},${second}`)
          .join('\n')}\n`,
      );
    expect(ids(question.hand(lines('test')))).toEqual(['overlap']);
    const twice = text(
      `colony,part\n${all.map((row) => `c${row},${row < 20 ? 'test' : 'training'}`).join('\n')}\n${all
        .slice(0, 20)
        .map((row) => `c${row},validation`)
        .join('\n')}\n`,
    );
    expect(ids(question.hand(twice))).toEqual(['held-out-used-twice']);
  });

  it('that overlap are named in a file for each part too', () => {
    const question = asked(begun('split', { values: plain }));
    const part = (rows: readonly number[]) => strToU8(`colony\n${rows.map((row) => `c${row}`).join('\n')}\n`);
    const zip = zipSync({ 'training.csv': part(all), 'test.csv': part(all.slice(0, 20)) });
    expect(ids(question.hand({ file: fileOf(zip, 'parts.zip') }))).toEqual(['overlap']);
  });

  it('are not looked for in a file beyond the limits', () => {
    const question = asked(begun('split', { values: plain }));
    const lines = `c0,training\nc0,test\nc1,training\nc1,test\n`.repeat(100_000);
    const result = question.hand(text(`colony,part\n${lines}`));
    expect(result.checks.map(({ id }) => id)).toEqual(['size']);
    expect(result.slips).toEqual([]);
  });

  it('are named in no split that is right, though it is a piece of the file', () => {
    expect(hand({}, last)).toEqual([]);
    expect(hand({ group: 'apiary' }, last)).toEqual([]);
    expect(hand({ time: 'day' }, last)).toEqual([]);
  });

  it('that cut one group of many are slips of the pen', () => {
    expect(hand({ group: 'apiary' }, (row) => (row === 3 ? 'test' : last(row)))).toEqual([]);
  });

  it('have a test each', () => {
    const tested = [...MADE.map(([slip]) => slip), 'held-out-used-twice'];
    expect([...SPLIT_SLIPS, ...UNREAD_SPLIT_SLIPS].map(({ id }) => id).sort()).toEqual(tested.sort());
  });
});

describe('slips in folds', () => {
  const plain = { k: 5, group: '', stratify: '', reports: 'nothing' };
  const hand = (values: Record<string, string | number>, fold: (row: number) => number, rows = all) =>
    ids(
      asked(begun('folds', { values: { ...plain, ...values } }), material()).hand(rowsOf('fold', fold, rows)),
    );
  const inTurn = (row: number) => (row % 5) + 1;
  const pieces = (row: number) => Math.floor(row / 18) + 1;

  const MADE: readonly (readonly [slip: string, found: () => string[]])[] = [
    ['sizes-unequal', () => hand({}, (row) => (row % 7 < 3 ? 1 : (row % 5) + 1))],
    ['not-stratified', () => hand({ stratify: 'survived' }, (row) => Math.floor(((row * 7) % 10) / 2) + 1)],
    ['groups-cut', () => hand({ group: 'apiary' }, inTurn)],
    [
      'in-file-order',
      // The rows that did not survive first: all of the first two folds.
      () => hand({ stratify: 'survived' }, (row) => Math.floor(byClass.indexOf(row) / 18) + 1),
    ],
    [
      'with-replacement',
      () =>
        hand(
          {},
          inTurn,
          all.map((row) => (row * row) % 90),
        ),
    ],
  ];

  it.each(MADE)('%s is named where it was made', (slip, found) => {
    expect(found()).toContain(slip);
  });

  it('are named in no folds that are right', () => {
    expect(hand({}, inTurn)).toEqual([]);
    expect(hand({}, pieces)).toEqual([]);
    expect(SUBJECT.roles.group).toBe('apiary');
  });

  it('have a test each', () => {
    expect([...FOLDS_SLIPS, ...UNREAD_FOLDS_SLIPS].map(({ id }) => id).sort()).toEqual(
      MADE.map(([slip]) => slip).sort(),
    );
  });
});
