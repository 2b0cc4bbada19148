import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { TextIndex } from './text-index.js';

const utf8 = new TextEncoder();

describe('finding a text among others', () => {
  it('gives its position or −1, whatever the texts look like, from a string and from bytes', () => {
    const text = fc.oneof(
      fc.integer({ min: 0, max: 60 }).map(String),
      fc.string({ unit: 'grapheme', maxLength: 3 }).map((drawn) => drawn.trim()),
      fc.constantFrom('007', '1e3', '-1', '12345678901', 'h 1', '0', '00', '', '__proto__', 'Bär', '蜂'),
    );
    fc.assert(
      fc.property(fc.uniqueArray(text, { maxLength: 40 }), fc.array(text), (texts, asked) => {
        const index = new TextIndex(texts);
        for (const one of [...texts, ...asked]) {
          const position = texts.indexOf(one);
          expect(index.ofText(one)).toBe(position);
          expect(index.ofText(` ${one} `)).toBe(position);
          const bytes = utf8.encode(`,${one},`);
          expect(index.ofBytes(bytes, 1, bytes.length - 1)).toBe(position);
        }
      }),
    );
  });
});
