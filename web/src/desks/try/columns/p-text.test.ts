import { expect, it } from '@jest/globals';
import { pText } from './p-text.js';

it.each([
  [null, '–'],
  [0, '< 0.000001'],
  [1e-7, '< 0.000001'],
  [0.00321, '0.0032'],
  [0.04567, '0.046'],
  [1, '1'],
])('a chance of %s is shown as %s', (p, text) => {
  expect(pText(p)).toBe(text);
});
