import { LARGEST_SEED } from '../../foundation/random/random.js';

export const k = { type: 'number', label: 'number of folds', min: 2, step: 1, start: 5 } as const;
export const repeats = (start: number) =>
  ({ type: 'number', label: 'repeats', min: 1, max: 1000, step: 1, start }) as const;
export const seed = {
  type: 'number',
  label: 'seed',
  min: 0,
  max: LARGEST_SEED,
  step: 1,
  start: 2718,
} as const;
export const time = { type: 'column', label: 'the column of time', of: ['time', 'number'] } as const;
export const gap = { type: 'number', label: 'gap', min: 0, start: 0 } as const;
