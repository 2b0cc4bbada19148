import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { decimalIn } from './decimal.js';

const read = (text: string): number => {
  const bytes = new TextEncoder().encode(`7${text}7`);
  return decimalIn(bytes, 1, bytes.length - 1);
};

const digits = (least: number, most: number) =>
  fc
    .array(fc.integer({ min: 0, max: 9 }), { minLength: least, maxLength: most })
    .map((list) => list.join(''));

/** What the engine reads, which rounds correctly (ECMA-262, 7.1.4.1.1, recommends it and V8 does); NaN may stand for any. */
const isReadOrLeft = (text: string) => {
  const value = read(text);
  expect(Number.isNaN(value) || Object.is(value, Number(text))).toBe(true);
  return !Number.isNaN(value);
};

describe('a decimal number', () => {
  it.each([
    ['0', 0],
    ['-0', -0],
    ['12.', 12],
    ['.5', 0.5],
    ['+7', 7],
    ['-3.25', -3.25],
    ['6.02e23', 6.02e23],
    ['1E-7', 1e-7],
    ['0e-300', 0],
    ['9007199254740991', 2 ** 53 - 1],
    ['0.1000000000000000055', 0.1],
    ['123456789.0123456789', 123456789.01234567],
  ])('%s is read', (text, value) => {
    expect(read(text)).toBe(value);
  });

  it.each([
    ['', 'nothing'],
    ['.', 'a point alone'],
    ['-', 'a sign alone'],
    ['007', 'a code'],
    ['1.2.3', 'two points'],
    ['12a', 'a letter'],
    ['1e', 'an exponent without digits'],
    ['1e+', 'an exponent of a sign'],
    ['1e5.', 'a point in the exponent'],
    ['9007199254740992', 'an integer that may stand for another'],
    ['12345678901234567890.5', 'more digits than are read here'],
    ['1e40', 'a power of ten that is not exact'],
    [' 1', 'a blank'],
  ])('%s is left: %s', (text) => {
    expect(read(text)).toBeNaN();
  });

  it('is the nearest double in whatever form it is written, or left', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('', '-', '+'),
        digits(0, 20),
        fc.constantFrom('', '.'),
        digits(0, 20),
        fc.option(fc.integer({ min: -320, max: 320 }), { nil: null }),
        (sign, whole, point, behind, exponent) => {
          const text = `${sign}${whole}${point}${point === '' ? '' : behind}`;
          if (!/\d/.test(text)) return;
          isReadOrLeft(exponent === null ? text : `${text}e${exponent}`);
        },
      ),
      { numRuns: 20_000 },
    );
  });

  it('of doubles as programs write them is read nearly always', () => {
    const random = fc.sample(fc.double({ noNaN: true, min: -1e6, max: 1e6 }), { numRuns: 20_000, seed: 7 });
    const ordinary = random.filter((value) => value === 0 || Math.abs(value) > 1e-4);
    const read = ordinary.filter((value) => isReadOrLeft(String(value)));
    expect(read.length / ordinary.length).toBeGreaterThan(0.99);
  });

  it('halfway between two doubles, or a digit beside it, is never rounded to the wrong one', () => {
    // Between 2^53 and 2^63 doubles lie 2, 4, … 1,024 apart: a decimal point makes the middle a number to read.
    for (let bits = 54; bits <= 63; bits++)
      for (const step of [1, 3, 5, 1001]) {
        const half = 2n ** BigInt(bits - 54);
        const middle = 2n ** BigInt(bits - 1) + BigInt(2 * step - 1) * half;
        for (const beside of [-1n, 0n, 1n]) {
          isReadOrLeft(`${middle + beside}.0`);
          const text = String(middle + beside);
          isReadOrLeft(`${text.slice(0, 4)}.${text.slice(4)}`);
        }
      }
  });
});
