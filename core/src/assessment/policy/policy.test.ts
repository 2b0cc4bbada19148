import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  daysLate,
  latePercentOf,
  lateWords,
  marksLessLate,
  refusedAttempt,
  type AttemptPolicy,
} from './attempts.js';
import { countingAnswer } from './counting.js';

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;
const deadline = Date.UTC(2026, 10, 20, 18);
const policy: AttemptPolicy = {
  attempts: 5,
  perDay: 2,
  deadline,
  graceMinutes: 10,
  latePercent: 10,
  lateDays: 3,
};
const none = { all: 0, today: 0 };

describe('an answer', () => {
  it.each([
    [0, 0],
    [10 * MINUTE, 0],
    [10 * MINUTE + 1, 10],
    [DAY, 10],
    [DAY + 10 * MINUTE + 1, 20],
    [3 * DAY + 10 * MINUTE, 30],
  ])('%d ms after the deadline is taken, and loses %d percent', (after, percent) => {
    expect(refusedAttempt(policy, deadline + after, none)).toBeNull();
    expect(latePercentOf(policy, deadline + after)).toBe(percent);
  });

  it('is not taken after the last late day, nor after the deadline where nothing late is', () => {
    expect(refusedAttempt(policy, deadline + 3 * DAY + 10 * MINUTE + 1, none)?.code).toBe('deadline-passed');
    const strict = { ...policy, graceMinutes: 0, lateDays: 0 };
    expect(refusedAttempt(strict, deadline, none)).toBeNull();
    expect(refusedAttempt(strict, deadline + 1, none)?.code).toBe('deadline-passed');
  });

  it('is taken while there are attempts in all and on the day', () => {
    expect(refusedAttempt(policy, deadline, { all: 4, today: 1 })).toBeNull();
    expect(refusedAttempt(policy, deadline, { all: 5, today: 0 })?.message).toBe('All 5 attempts are used.');
    expect(refusedAttempt(policy, deadline, { all: 2, today: 2 })).toEqual({
      code: 'no-attempts-today',
      message: '2 attempts a day are used. Tomorrow there are more.',
    });
    expect(refusedAttempt({ ...policy, perDay: 1 }, deadline, { all: 1, today: 1 })?.message).toBe(
      '1 attempt a day is used. Tomorrow there are more.',
    );
    expect(refusedAttempt({ ...policy, perDay: null }, deadline, { all: 4, today: 4 })).toBeNull();
  });

  it('never gains by being later, and loses all marks at most', () => {
    const moment = fc.integer({ min: -3 * DAY, max: 30 * DAY });
    fc.assert(
      fc.property(moment, moment, fc.double({ min: 0, max: 100, noNaN: true }), (a, b, marks) => {
        const [early, late] = [Math.min(a, b), Math.max(a, b)].map((after) =>
          latePercentOf(policy, deadline + after),
        );
        expect(marksLessLate(marks, late ?? 0)).toBeLessThanOrEqual(marksLessLate(marks, early ?? 0));
        expect(marksLessLate(marks, late ?? 0)).toBeGreaterThanOrEqual(0);
        expect(daysLate(policy, deadline + a)).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  it('has its lateness in words', () => {
    expect(lateWords(policy)).toBe('10 minutes of grace, then 10 % less a day for 3 days');
    expect(lateWords({ graceMinutes: 0, latePercent: 0, lateDays: 0 })).toBe('');
  });
});

describe('the submission that counts', () => {
  const answers = [
    { number: 1, checked: true, standing: 4 },
    { number: 2, checked: true, standing: 8 },
    { number: 3, checked: true, standing: 8 },
    { number: 4, checked: true, standing: 6 },
    { number: 5, checked: false, standing: null },
  ];
  it('is the best, of equal ones the latest; or the last that was checked', () => {
    expect(countingAnswer(answers, 'best')?.number).toBe(3);
    expect(countingAnswer(answers, 'last')?.number).toBe(4);
    expect(countingAnswer(answers.slice(4), 'best')).toBeNull();
  });
});
