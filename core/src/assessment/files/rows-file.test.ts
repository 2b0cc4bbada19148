import { expect, it } from '@jest/globals';
import { bytesOf } from '../../../test/files.js';
import { checkPredictions } from './predictions.js';
import type { PredictionRules } from './rules.js';

const rules: PredictionRules = {
  identifier: 'colony',
  identifiers: ['HL-1', 'HL-2'],
  task: 'binary',
  labels: ['lost', 'survived'],
  positive: 'survived',
  needs: 'probabilities',
};

it.each([
  ['probability,colony\n0.2,HL-1\n0.2,HL-2\n0.9,HL-9\n', [4, 2]],
  ['colony,probability\nHL-1,0.2\nHL-9,0.9\nHL-2,0.2\n', [3, 1]],
])('an identifier that was not asked for is named by its line and column: %j', (text, place) => {
  const { checks } = checkPredictions(bytesOf(text), 'mine.csv', rules);
  const examples = checks.flatMap((one) => one.examples).filter((one) => one.text.includes('HL-9'));
  expect(examples.map(({ line, column }) => [line, column])).toEqual([place]);
});
