import { expect, it } from '@jest/globals';
import { whatDiffers, type ComparedRun } from './what-differs.js';

const rmse = { mean: 2, se: 0.5, folds: [1, 2, 3], train: 1, gap: 1, reason: null };
const run = (over: Partial<ComparedRun>, features: readonly string[], rows = 100): ComparedRun => ({
  foldSetId: 'a',
  version: 2,
  plan: { features, weight: null },
  result: { rows, chosen: { metrics: { rmse } } },
  ...over,
});

it('nothing, where only the models differ', () => {
  expect(whatDiffers(run({}, ['x']), run({}, ['x']), [])).toEqual([]);
});

it('version, folds, rows, features and weight, each where it differs', () => {
  const first = run({}, ['x', 'day'], 30);
  const second = run({ foldSetId: 'b', version: 1 }, ['x', 'a', 'b', 'c', 'd', 'e', 'f', 'g'], 365);
  expect(whatDiffers(first, second, [])).toEqual([
    'version 2, the other 1',
    '3 folds of its version, the other 3 folds of its version',
    '30 training rows, the other 365',
    'day in this run alone',
    'a, b, c, d, e, f and 1 more in the other alone',
  ]);
});

it('which of the features a screening keeps', () => {
  const screened = run({ plan: { features: ['x'], weight: null, screening: { by: 'anova', keep: 3 } } }, [
    'x',
  ]);
  expect(whatDiffers(screened, run({}, ['x']), [])).toEqual([
    'the 3 strongest by analysis of variance, the other all of its features',
  ]);
  expect(whatDiffers(screened, screened, [])).toEqual([]);
});
