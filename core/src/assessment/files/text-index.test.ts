import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { TextIndex } from './text-index.js';

const utf8 = new TextEncoder();

/** Where a text is by looking through all: as it is, else the only one of the same whole number. */
function placeOf(texts: readonly string[], text: string): number {
  if (texts.includes(text)) return texts.indexOf(text);
  const isWhole = (one: string) => /^\d+(\.0+)?$/.test(one);
  const same = texts.filter((one) => isWhole(one) && isWhole(text) && Number(one) === Number(text));
  return same.length === 1 ? texts.indexOf(same[0] ?? '') : -1;
}

describe('finding a text among others', () => {
  it('gives its position or −1, whatever the texts look like, from a string and from bytes', () => {
    const text = fc.oneof(
      fc.integer({ min: 0, max: 60 }).map(String),
      fc.string({ unit: 'grapheme', maxLength: 3 }).map((drawn) => drawn.trim()),
      fc.constantFrom(
        '007',
        '7.0',
        '1e3',
        '-1',
        '12345678901',
        'h 1',
        '0',
        '00',
        '',
        '__proto__',
        'Bär',
        '蜂',
      ),
    );
    fc.assert(
      fc.property(fc.uniqueArray(text, { maxLength: 40 }), fc.array(text), (texts, asked) => {
        const index = new TextIndex(texts);
        for (const one of [...texts, ...asked]) {
          expect(index.ofText(one)).toBe(placeOf(texts, one));
          expect(index.ofText(` ${one} `)).toBe(placeOf(texts, one));
          const bytes = utf8.encode(`,${one},`);
          expect(index.ofBytes(bytes, 1, bytes.length - 1)).toBe(texts.indexOf(one));
        }
      }),
    );
  });

  it('finds identifiers that lost their zeros, unless two of them are that number', () => {
    const index = new TextIndex(['0553', '0007', '7', '020.0']);
    expect(['553', '553.0', '0007', '7', '007', '20', '55'].map((text) => index.ofText(text))).toEqual([
      0, 0, 1, 2, -1, 3, -1,
    ]);
  });
});
