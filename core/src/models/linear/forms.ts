import { at } from '../../foundation/numbers.js';
import { softmax } from '../contract/softmax.js';
import type { StateForm } from '../contract/state.js';
import type { Design } from '../prepared/design.js';

/** A number from the terms of the design; for two classes the probability of the positive one, kept within 0 and 1. */
export interface LinearState {
  readonly form: 'linear';
  readonly intercept: number;
  readonly slopes: readonly number[];
}

/** Log-odds of each class from the terms of the design; those of the class that others are compared with are 0. */
export interface LogitsState {
  readonly form: 'logits';
  readonly intercepts: readonly number[];
  /** For each class one slope for each term. */
  readonly slopes: readonly (readonly number[])[];
}

const nonzero = (slopes: readonly number[]) => slopes.filter((slope) => slope !== 0).length;

export const linearForm: StateForm<LinearState> = {
  name: 'linear',
  predict: ({ intercept, slopes }, sample) => [linear(sample.design(), intercept, slopes)],
  explain: ({ intercept, slopes }, one, typical) => ({
    kind: 'contributions',
    of: 'value',
    ...contributions(intercept, slopes, one.design(), typical.design()),
  }),
  sizeOf: ({ slopes }) => ({ count: nonzero(slopes), of: 'coefficients' }),
};

export const logitsForm: StateForm<LogitsState> = {
  name: 'logits',
  predict: ({ intercepts, slopes }, sample) => {
    const design = sample.design();
    return softmax(slopes.map((own, label) => linear(design, at(intercepts, label), own)));
  },
  explain: ({ intercepts, slopes }, one, typical) => {
    const design = one.design();
    const logits = slopes.map((own, label) => at(linear(design, at(intercepts, label), own), 0));
    const [first = 0, second = 0] = [...logits.keys()].sort((a, b) => at(logits, b) - at(logits, a) || a - b);
    const against = at(slopes, second);
    return {
      kind: 'contributions',
      of: { label: first, against: second },
      ...contributions(
        at(intercepts, first) - at(intercepts, second),
        at(slopes, first).map((slope, term) => slope - at(against, term)),
        design,
        typical.design(),
      ),
    };
  },
  sizeOf: ({ slopes }) => ({
    count: slopes.reduce((sum, own) => sum + nonzero(own), 0),
    of: 'coefficients',
  }),
};

/** What the terms of each feature add to what is said of a typical row; features without a slope are left out. */
function contributions(intercept: number, slopes: readonly number[], one: Design, typical: Design) {
  const amounts = new Map<string, number>();
  one.terms.forEach(({ feature }, term) => {
    const slope = at(slopes, term);
    if (slope === 0) return;
    const apart = at(at(one.columns, term), 0) - at(at(typical.columns, term), 0);
    amounts.set(feature, (amounts.get(feature) ?? 0) + slope * apart);
  });
  return {
    typical: at(linear(typical, intercept, slopes), 0),
    parts: [...amounts].map(([feature, amount]) => ({ feature, amount })),
  };
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
