import { describe, expect, it } from '@jest/globals';
import { assignmentFaults } from './assignment-work.js';

const parts = [
  { name: 'training', share: 0.6 },
  { name: 'test', share: 0.4 },
];
/** So many rows in training, the others of 100 in test. */
const assigned = (training: number) => Int32Array.from({ length: 100 }, (_, row) => Number(row >= training));
const faults = (training: number) =>
  assignmentFaults(assigned(training), parts, { groups: null, time: null }, 'part');

describe('an assignment of other sizes than asked for', () => {
  it('is another split, with the rows that there are and those that there should be', () => {
    expect(faults(20)).toEqual([
      expect.objectContaining({
        message: '20 rows in training: that is another split than asked for.',
        measured: '20 rows',
        expected: 'about 60 rows',
      }),
    ]);
    expect(faults(0)[0]?.message).toContain('0 rows in training');
    expect(faults(100)[0]?.message).toContain('100 rows in training');
  });

  it('is none within two thirds and a row', () => {
    expect(faults(39)).toEqual([]);
    expect(faults(38)).toHaveLength(1);
    expect(faults(60)).toEqual([]);
  });
});
