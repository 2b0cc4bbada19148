import { SieveError } from '../../foundation/errors.js';

/** The most units of a layer, and the most hidden layers. */
const MOST_UNITS = 1000;
const MOST_LAYERS = 6;

/**
 * Sizes of the hidden layers from a text: "20, 10".
 *
 * @throws SieveError `model` with the field `layers`
 */
export function layersFrom(text: string): number[] {
  const fail = (message: string) => new SieveError('model', message, { field: 'layers' });
  const sizes = text.split(',').map((part) => Number(part.trim() === '' ? NaN : part));
  if (!sizes.every((size) => Number.isInteger(size) && size >= 1 && size <= MOST_UNITS))
    throw fail(`Layers are whole numbers from 1 to ${MOST_UNITS}, apart by commas: “20, 10”, not “${text}”.`);
  if (sizes.length > MOST_LAYERS) throw fail(`A network has at most ${MOST_LAYERS} hidden layers.`);
  return sizes;
}

export type Activation = 'relu' | 'tanh';

/** One layer: what goes in times `weights`, row by row of inputs, plus `biases`. */
export interface Layer {
  readonly inputs: number;
  readonly outputs: number;
  /** Those from one input side by side: `inputs × outputs`. */
  readonly weights: Float64Array;
  readonly biases: Float64Array;
}

/**
 * out = in · weights + biases for a batch of rows, each of them side by side.
 *
 * @param count rows of the batch
 */
export function forward(layer: Layer, values: Float64Array, count: number, out: Float64Array): void {
  const { inputs, outputs, weights, biases } = layer;
  for (let row = 0; row < count; row++) {
    const to = row * outputs;
    for (let o = 0; o < outputs; o++) out[to + o] = biases[o] ?? 0;
    for (let i = 0; i < inputs; i++) {
      const value = values[row * inputs + i] ?? 0;
      if (value === 0) continue;
      const from = i * outputs;
      for (let o = 0; o < outputs; o++) out[to + o] = (out[to + o] ?? 0) + value * (weights[from + o] ?? 0);
    }
  }
}

/** Gradients of a layer's weights and biases, summed over a batch, from those of its outputs. */
export function addGradients(
  { inputs, outputs }: Layer,
  values: Float64Array,
  deltas: Float64Array,
  count: number,
  weights: Float64Array,
  biases: Float64Array,
): void {
  for (let row = 0; row < count; row++) {
    const from = row * outputs;
    for (let o = 0; o < outputs; o++) biases[o] = (biases[o] ?? 0) + (deltas[from + o] ?? 0);
    for (let i = 0; i < inputs; i++) {
      const value = values[row * inputs + i] ?? 0;
      if (value === 0) continue;
      const to = i * outputs;
      for (let o = 0; o < outputs; o++)
        weights[to + o] = (weights[to + o] ?? 0) + value * (deltas[from + o] ?? 0);
    }
  }
}

/** Gradients of a layer's inputs from those of its outputs. */
export function backward(
  { inputs, outputs, weights }: Layer,
  deltas: Float64Array,
  count: number,
  into: Float64Array,
): void {
  for (let row = 0; row < count; row++)
    for (let i = 0; i < inputs; i++) {
      const from = i * outputs;
      const of = row * outputs;
      let sum = 0;
      for (let o = 0; o < outputs; o++) sum += (deltas[of + o] ?? 0) * (weights[from + o] ?? 0);
      into[row * inputs + i] = sum;
    }
}

/** Applies an activation in place. */
export function activate(values: Float64Array, length: number, activation: Activation): void {
  if (activation === 'relu') for (let i = 0; i < length; i++) values[i] = Math.max(0, values[i] ?? 0);
  else for (let i = 0; i < length; i++) values[i] = Math.tanh(values[i] ?? 0);
}

/** Multiplies gradients by the slope of the activation, which follows from what it gave. */
export function deactivate(
  deltas: Float64Array,
  values: Float64Array,
  length: number,
  activation: Activation,
): void {
  if (activation === 'relu')
    for (let i = 0; i < length; i++) deltas[i] = (values[i] ?? 0) > 0 ? (deltas[i] ?? 0) : 0;
  else for (let i = 0; i < length; i++) deltas[i] = (deltas[i] ?? 0) * (1 - (values[i] ?? 0) ** 2);
}

/** In place, to shares of the classes: of one output the logistic function, of several softmax. */
export function toShares(values: Float64Array, count: number, outputs: number): void {
  if (outputs === 1) {
    for (let row = 0; row < count; row++) values[row] = 1 / (1 + Math.exp(-(values[row] ?? 0)));
    return;
  }
  for (let row = 0; row < count; row++) {
    const from = row * outputs;
    let largest = -Infinity;
    for (let o = 0; o < outputs; o++) largest = Math.max(largest, values[from + o] ?? 0);
    let sum = 0;
    for (let o = 0; o < outputs; o++) {
      const own = Math.exp((values[from + o] ?? 0) - largest);
      values[from + o] = own;
      sum += own;
    }
    for (let o = 0; o < outputs; o++) values[from + o] = (values[from + o] ?? 0) / sum;
  }
}
