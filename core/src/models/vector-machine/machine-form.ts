import { at } from '../../foundation/numbers.js';
import { softmax } from '../contract/softmax.js';
import type { StateForm } from '../contract/state.js';
import type { Design } from '../prepared/design.js';
import { kernelRow, ownProducts, type Kernel } from './kernel.js';

/** What the support vectors say of a row: above 0 for one side. */
export interface Decision {
  /** The class above 0 and the one below; both −1 for numbers. */
  readonly above: number;
  readonly below: number;
  /** Places among the support vectors, and what each says. */
  readonly vectors: ArrayLike<number>;
  readonly weights: ArrayLike<number>;
  readonly offset: number;
}

export interface MachineState {
  readonly form: 'vector-machine';
  readonly kernel: Kernel;
  readonly means: readonly number[];
  readonly deviations: readonly number[];
  /** The support vectors, standardised, each by column. */
  readonly vectors: readonly ArrayLike<number>[];
  readonly decisions: readonly Decision[];
  /** 0 where numbers are predicted. */
  readonly classes: number;
  /** Of the numbers; 0 and 1 for classes. */
  readonly mean: number;
  readonly deviation: number;
}

/** What every decision says of every row. */
function decide(state: MachineState, { columns, rowCount }: Design): Float64Array[] {
  const own = columns.map((column, c) => {
    const [mean, deviation] = [at(state.means, c), at(state.deviations, c)];
    return column.map((value) => (value - mean) / deviation);
  });
  const products = ownProducts(own, rowCount);
  const out = state.decisions.map(({ offset }) => new Float64Array(rowCount).fill(-offset));
  const said = state.vectors.map(() => [] as { decision: number; weight: number }[]);
  state.decisions.forEach(({ vectors, weights }, decision) => {
    for (let i = 0; i < vectors.length; i++)
      said[vectors[i] ?? 0]?.push({ decision, weight: weights[i] ?? 0 });
  });
  const kernels = new Float64Array(rowCount);
  state.vectors.forEach((vector, v) => {
    kernelRow(state.kernel, vector, own, products, kernels);
    for (const { decision, weight } of at(said, v)) addTimes(kernels, weight, at(out, decision));
  });
  return out;
}

function addTimes(values: Float64Array, factor: number, into: Float64Array): void {
  for (let row = 0; row < into.length; row++) into[row] = (into[row] ?? 0) + factor * (values[row] ?? 0);
}

export const machineForm: StateForm<MachineState> = {
  name: 'vector-machine',
  predict: (state, sample) => {
    const { rowCount } = sample;
    const { decisions, classes, mean, deviation } = state;
    const said = decide(state, sample.design());
    if (classes === 0) return [at(said, 0).map((value) => mean + deviation * value)];
    const scores = Array.from({ length: classes }, () => new Float64Array(rowCount));
    decisions.forEach(({ above, below }, d) => {
      const own = at(said, d);
      // Of two classes the distance itself is the score, of more each pair has a vote.
      if (classes === 2) own.forEach((value, row) => (at(scores, above)[row] = value));
      else
        own.forEach((value, row) => {
          const winner = at(scores, value > 0 ? above : below);
          winner[row] = (winner[row] ?? 0) + 1;
        });
    });
    return softmax(scores);
  },
  sizeOf: ({ vectors }) => ({ count: vectors.length, of: 'support vectors' }),
};
