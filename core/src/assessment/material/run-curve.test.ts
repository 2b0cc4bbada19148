import { expect, it } from '@jest/globals';
import { runCurveOf } from './run-curve.js';

const setting = (values: Record<string, number>, mean: number) => ({
  values,
  metrics: { rmse: { mean, se: 0.1, folds: [mean], train: mean - 1, gap: 1, reason: null } },
});

it('is the figures of a run along its one setting', () => {
  const { points } = runCurveOf('rmse', 'tree', [setting({ depth: 1 }, 5), setting({ depth: 2 }, 4)]);
  expect(points).toEqual([
    { setting: '1', mean: 5, se: 0.1, training: 4 },
    { setting: '2', mean: 4, se: 0.1, training: 3 },
  ]);
  expect(runCurveOf('mae', 'tree', [setting({ depth: 1 }, 5)]).points).toEqual([
    { setting: '1', mean: null, se: null, training: null },
  ]);
});

it('is none of a grid, of a search through several settings, or of one on a share of the rows', () => {
  const grid = [setting({ depth: 1, rows_per_leaf: 1 }, 5), setting({ depth: 1, rows_per_leaf: 9 }, 4)];
  expect(runCurveOf('rmse', 'tree', grid).points).toEqual([]);
  const halved = [setting({ depth: 1, training_share: 33 }, 5), setting({ depth: 2 }, 4)];
  expect(runCurveOf('rmse', 'tree', halved).points).toEqual([]);
  expect(runCurveOf('rmse', 'tree', [setting({}, 5)]).points).toEqual([]);
});
