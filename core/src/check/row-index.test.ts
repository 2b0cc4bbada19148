import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { rowIndex } from './row-index.js';

describe('finding rows by identifier', () => {
  it('gives the position in the list, or nothing, whatever identifiers look like', () => {
    const id = fc.oneof(
      fc.integer({ min: 0, max: 60 }).map(String),
      fc.constantFrom('007', '1e3', '-1', '12345678901', 'h 1', '0', '00', '__proto__'),
    );
    fc.assert(
      fc.property(fc.uniqueArray(id, { maxLength: 40 }), fc.array(id), (identifiers, asked) => {
        const find = rowIndex(identifiers);
        for (const one of [...identifiers, ...asked]) {
          const position = identifiers.indexOf(one);
          expect(find(one)).toBe(position < 0 ? undefined : position);
          expect(find(` ${one} `)).toBe(position < 0 ? undefined : position);
        }
      }),
    );
  });
});
