import { describe, expect, it } from '@jest/globals';
import {
  differenceText,
  figureText,
  fromNow,
  intervalText,
  momentText,
  ordinal,
  scoreText,
  sizeText,
  valueText,
} from './format.js';

describe('figures', () => {
  it.each([
    [0.123456, '0.123'],
    [0, '0.000'],
    [0.00012, '1.20e-4'],
    [-12.3456, '-12.35'],
    [1234.56, '1234.6'],
    [null, '–'],
  ])('%s is written %s', (value, text) => {
    expect(figureText(value)).toBe(text);
  });

  it.each([
    [-2.02e-4, 0.395, '0.000'],
    [0.0281, 0.972, '0.028'],
    [-0.0281, 0.972, '−0.028'],
    [-1.234, 53.2, '−1.23'],
    [0.00012, 0.0004, '1.20e-4'],
    [null, 1, '–'],
  ])('a difference of %s at %s is written %s', (value, size, text) => {
    expect(differenceText(value, size)).toBe(text);
  });

  it('of the data lose idle zeros only', () => {
    expect([4.25, 70, 3.6333333, 0].map(valueText)).toEqual(['4.25', '70', '3.633', '0']);
    expect(valueText(null)).toBe('–');
  });

  it('that are undefined say why', () => {
    expect(scoreText({ value: null, reason: 'no row is positive' })).toBe('undefined: no row is positive');
    expect(intervalText({ low: null, high: null, reason: 'too few' })).toBe('could not be judged: too few');
    expect(intervalText({ low: 0.1, high: 0.25, method: 'Wilson' })).toBe('0.100 to 0.250 (95 %, Wilson)');
  });
});

describe('times', () => {
  it.each([
    ['2026-12-09T18:00:00Z', 'in 2 days 3 hours'],
    ['2026-12-07T16:00:00Z', 'in 1 hour'],
    ['2026-12-07T15:00:20Z', 'in less than a minute'],
    ['2026-12-07T14:55:00Z', '5 minutes ago'],
    ['2026-12-06T15:00:00Z', '1 day ago'],
  ])('%s is told as %s', (moment, text) => {
    expect(fromNow(moment, '2026-12-07T15:00:00Z')).toBe(text);
  });

  it('are those of the course’s zone, whatever the browser’s is', () => {
    expect(momentText('2026-12-07T15:05:00Z', 'Asia/Tokyo')).toBe('8 Dec, 00:05');
    expect(momentText('2026-07-01T22:30:00+02:00', 'Europe/London')).toBe('1 Jul, 21:30');
  });
});

describe('counts and sizes', () => {
  it('are said as people say them', () => {
    expect([1, 2, 10, 11, 12, 13, 21, 22, 23, 24, 111, 112].map(ordinal)).toEqual([
      'first', 'second', 'tenth', '11th', '12th', '13th', '21st', '22nd', '23rd', '24th', '111th', '112th',
    ]); // prettier-ignore
    expect([10, 2048, 3 * 1024 * 1024].map(sizeText)).toEqual(['1 kB', '2 kB', '3.0 MB']);
  });
});
