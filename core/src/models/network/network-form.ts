import { at } from '../../foundation/numbers.js';
import type { StateForm } from '../contract/state.js';
import { activate, forward, toShares, type Activation, type Layer } from './layers.js';

export interface NetworkState {
  readonly form: 'network';
  readonly means: readonly number[];
  readonly deviations: readonly number[];
  readonly layers: readonly {
    readonly inputs: number;
    readonly outputs: number;
    readonly weights: ArrayLike<number>;
    readonly biases: ArrayLike<number>;
  }[];
  readonly activation: Activation;
  /** 0 where numbers are predicted. */
  readonly classes: number;
  /** The class that a single output is the chance of; null where each class has its own. */
  readonly positive: number | null;
  /** Of the numbers; 0 and 1 for classes. */
  readonly mean: number;
  readonly deviation: number;
}

/** Rows that are run at once. */
const BATCH = 512;

export const networkForm: StateForm<NetworkState> = {
  name: 'network',
  predict: (state, sample) => {
    const { columns, rowCount } = sample.design();
    const layers = state.layers.map((layer): Layer => ({
      ...layer,
      weights: Float64Array.from(layer.weights),
      biases: Float64Array.from(layer.biases),
    }));
    const outputs = at(layers, layers.length - 1).outputs;
    const out = Array.from({ length: outputs }, () => new Float64Array(rowCount));
    const values = [columns.length, ...layers.map((layer) => layer.outputs)].map(
      (size) => new Float64Array(size * BATCH),
    );
    for (let from = 0; from < rowCount; from += BATCH) {
      const count = Math.min(BATCH, rowCount - from);
      const inputs = at(values, 0);
      columns.forEach((column, c) => {
        const [mean, deviation] = [at(state.means, c), at(state.deviations, c)];
        for (let i = 0; i < count; i++)
          inputs[i * columns.length + c] = ((column[from + i] ?? 0) - mean) / deviation;
      });
      layers.forEach((layer, l) => {
        forward(layer, at(values, l), count, at(values, l + 1));
        if (l < layers.length - 1) activate(at(values, l + 1), count * layer.outputs, state.activation);
      });
      const said = at(values, layers.length);
      if (state.classes > 0) toShares(said, count, outputs);
      out.forEach((own, o) => {
        for (let i = 0; i < count; i++) own[from + i] = said[i * outputs + o] ?? 0;
      });
    }
    const [first = new Float64Array(rowCount)] = out;
    if (state.classes === 0) return [first.map((value) => state.mean + state.deviation * value)];
    if (state.positive === null) return out;
    const other = first.map((share) => 1 - share);
    return state.positive === 0 ? [first, other] : [other, first];
  },
  sizeOf: ({ layers }) => ({
    count: layers.reduce((sum, { weights, biases }) => sum + weights.length + biases.length, 0),
    of: 'weights',
  }),
};
