import { describe, expect, it } from '@jest/globals';
import { readCsv } from '../../data/formats/csv/read.js';
import type { AnswerKey } from '../files/judge.js';
import type { Predictions } from '../files/reader.js';
import type { PredictionRules } from '../files/rules.js';
import { classOnRows } from './class-rows.js';

const N = 40;
const ids = Array.from({ length: N }, (_, row) => `r${row}`);
/** Rows from 0 to 19 are of hill, the others of vale; `far` counts up. */
const features = readCsv(
  new TextEncoder().encode(
    ['id,place,far', ...ids.map((id, row) => `${id},${row < 20 ? 'hill' : 'vale'},${row}`)].join('\n'),
  ),
  { file: 'held-out.csv' },
).table;
const rules = { identifier: 'id', identifiers: ids } as unknown as PredictionRules;
const labelKey: AnswerKey = {
  task: 'binary',
  labels: ['no', 'yes'],
  positive: 'yes',
  classes: Int32Array.from(ids, (_, row) => row % 2),
  values: null,
  groups: null,
  feedback: new Uint8Array(N),
};
/** Right but for some rows. */
const answer = (...wrong: number[]): Predictions => ({
  kind: 'labels',
  predicted: Int32Array.from(ids, (_, row) => (wrong.includes(row) ? 1 - (row % 2) : row % 2)),
  probabilities: null,
  derived: false,
});

describe('a class, row by row', () => {
  it('lists the rows that most students get wrong, with what most of them say', () => {
    const found = classOnRows(
      labelKey,
      rules,
      [answer(3, 5), answer(3, 7), answer(3, 5), answer()],
      features,
    );
    expect(found).toMatchObject({ students: 4, rows: N, kind: 'labels' });
    expect(found.missed).toBeCloseTo(6 / (4 * N), 12);
    expect(found.worst).toEqual([
      { identifier: 'r3', truth: 'yes', answer: 'no', missed: 0.75 },
      { identifier: 'r5', truth: 'yes', answer: 'no', missed: 0.5 },
      { identifier: 'r7', truth: 'yes', answer: 'yes', missed: 0.25 },
    ]);
  });

  it('lists subgroups that are missed more than the other rows, the clearest first, by hand', () => {
    // Of hill 5 of 20 rows are missed by both, of vale 1 of 20 by one: 0.25 and 0.025.
    const found = classOnRows(
      labelKey,
      rules,
      [answer(0, 4, 8, 12, 16, 30), answer(0, 4, 8, 12, 16)],
      features,
    );
    const [first] = found.subgroups.filter(({ column }) => column === 'place');
    expect(first).toEqual({ column: 'place', value: 'hill', rows: 20, missed: 0.25, elsewhere: 0.025 });
    // Fifths of 8 rows are too few to be listed, and a subgroup that is missed less is none.
    expect(found.subgroups).toHaveLength(1);
  });

  it('takes absolute errors of numbers', () => {
    const key: AnswerKey = {
      ...labelKey,
      task: 'regression',
      labels: [],
      positive: null,
      classes: null,
      values: Float64Array.from(ids, (_, row) => row),
    };
    const off = (by: number): Predictions => ({
      kind: 'numbers',
      predicted: Float64Array.from(ids, (_, row) => (row === 9 ? row + by : row)),
    });
    const found = classOnRows(key, rules, [off(4), off(-2)], features);
    expect(found.worst).toEqual([{ identifier: 'r9', truth: '9', answer: '10', missed: 3 }]);
    expect(found).toMatchObject({ kind: 'numbers' });
  });

  it('refuses features of other rows', () => {
    const others = { ...rules, identifiers: ids.slice(1) };
    expect(() => classOnRows(labelKey, others, [answer()], features)).toThrow(/40 rows, and the question 39/);
  });
});
