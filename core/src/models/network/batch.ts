import type { Random } from '../../foundation/random/random.js';

/** Rows as a network takes them: inputs of each row side by side, and what it should say. */
export interface NetworkRows {
  readonly inputs: Float64Array;
  readonly answers: Float64Array;
  readonly weights: Float64Array;
  readonly count: number;
}

export function gatherRows(
  inputs: Float64Array,
  order: Int32Array,
  from: number,
  count: number,
  width: number,
  into: Float64Array,
): void {
  for (let i = 0; i < count; i++) {
    const start = (order[from + i] ?? 0) * width;
    for (let c = 0; c < width; c++) into[i * width + c] = inputs[start + c] ?? 0;
  }
}

/** Leaves units out, and makes the others so much larger (Srivastava and others, 2014). */
export function drop(
  values: Float64Array,
  mask: Float64Array,
  length: number,
  share: number,
  random: Random,
): void {
  for (let i = 0; i < length; i++) {
    const kept = random.unit() >= share ? 1 / (1 - share) : 0;
    mask[i] = kept;
    values[i] = (values[i] ?? 0) * kept;
  }
}

export function multiply(values: Float64Array, by: Float64Array, length: number): void {
  for (let i = 0; i < length; i++) values[i] = (values[i] ?? 0) * (by[i] ?? 0);
}

export function addDecay(weights: Float64Array, gradients: Float64Array, decay: number): void {
  for (let i = 0; i < weights.length; i++) gradients[i] = (gradients[i] ?? 0) + decay * (weights[i] ?? 0);
}

export function weightOf(weights: Float64Array, order: Int32Array, from: number, count: number): number {
  let sum = 0;
  for (let i = from; i < from + count; i++) sum += weights[order[i] ?? 0] ?? 0;
  return sum;
}

/** A chance beside which none is smaller: its logarithm is finite. */
const NEVER = 1e-15;

export function lossOf(
  said: Float64Array,
  { answers, weights }: NetworkRows,
  order: Int32Array,
  from: number,
  count: number,
  outputs: number,
  isNumbers: boolean,
): number {
  let sum = 0;
  for (let i = 0; i < count; i++) {
    const row = order[from + i] ?? 0;
    let loss = 0;
    for (let o = 0; o < outputs; o++) {
      const value = said[i * outputs + o] ?? 0;
      const truth = answers[row * outputs + o] ?? 0;
      if (isNumbers) loss += (value - truth) ** 2;
      else {
        if (truth > 0) loss -= truth * Math.log(Math.max(NEVER, value));
        if (outputs === 1 && truth < 1) loss -= (1 - truth) * Math.log(Math.max(NEVER, 1 - value));
      }
    }
    sum += (weights[row] ?? 0) * loss;
  }
  return sum;
}

export function differ(
  said: Float64Array,
  { answers, weights }: NetworkRows,
  order: Int32Array,
  from: number,
  count: number,
  outputs: number,
  into: Float64Array,
  weight: number,
): void {
  for (let i = 0; i < count; i++) {
    const row = order[from + i] ?? 0;
    const own = (weights[row] ?? 0) / weight;
    for (let o = 0; o < outputs; o++)
      into[i * outputs + o] = own * ((said[i * outputs + o] ?? 0) - (answers[row * outputs + o] ?? 0));
  }
}
