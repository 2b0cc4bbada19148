import { at } from '../numbers.js';
import { predictBayes } from './bayes/predict.js';
import type { Sample } from './model.js';
import { predictNeighbours } from './nearest.js';
import type { Design } from './prepared/design.js';
import { shares } from './shares.js';
import type { ModelState } from './state.js';
import { predictTree } from './tree/state.js';

/**
 * Predictions of n rows: a single array of numbers, or for each class n probabilities. A linear fit of two classes
 * gives a single array as well, of the positive class.
 */
export type Predicted = readonly Float64Array[];

/** What a model predicts. Classes are in the order of the target's labels. */
export function predictState(state: ModelState, sample: Sample): Predicted {
  switch (state.form) {
    case 'constant':
      return state.values.map((value) => new Float64Array(sample.rowCount).fill(value));
    case 'linear':
      return [linear(sample.design(), state.intercept, state.slopes)];
    case 'logits': {
      const design = sample.design();
      return shares(state.slopes.map((slopes, label) => linear(design, at(state.intercepts, label), slopes)));
    }
    case 'neighbours':
      return predictNeighbours(state, sample.design());
    case 'bayes':
      return predictBayes(state, sample);
    case 'tree':
      return predictTree(state, sample);
  }
}

function linear({ rowCount, columns }: Design, intercept: number, slopes: readonly number[]): Float64Array {
  const out = new Float64Array(rowCount).fill(intercept);
  const used = columns.flatMap((values, c) => {
    const slope = slopes[c] ?? 0;
    return slope === 0 ? [] : [{ slope, values }];
  });
  // Four columns at a time, so that each sum is fetched and stored a quarter as often.
  const nothing = { slope: 0, values: out };
  for (let c = 0; c < used.length; c += 4) {
    const { slope: a, values: w } = at(used, c);
    const { slope: b, values: x } = used[c + 1] ?? nothing;
    const { slope: d, values: y } = used[c + 2] ?? nothing;
    const { slope: e, values: z } = used[c + 3] ?? nothing;
    for (let row = 0; row < rowCount; row++)
      out[row] =
        (out[row] ?? 0) + a * (w[row] ?? 0) + b * (x[row] ?? 0) + d * (y[row] ?? 0) + e * (z[row] ?? 0);
  }
  return out;
}
