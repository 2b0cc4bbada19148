import { at } from '../../foundation/numbers.js';
import type { StateForm } from '../contract/state.js';
import type { Design } from '../prepared/design.js';
import { NearestHeap } from './heap.js';

/** Rows that are remembered, and how distances to them are measured. */
export interface NeighboursState {
  readonly form: 'neighbours';
  readonly neighbours: number;
  readonly byDistance: boolean;
  readonly means: readonly number[];
  readonly deviations: readonly number[];
  /** For each term the standardised values of the rows. */
  readonly rows: readonly (readonly number[] | Float64Array)[];
  /** Class of each row, or its number. */
  readonly answers: readonly number[] | Float64Array | Int32Array;
  readonly weights: readonly number[] | Float64Array | null;
  /** 0 where numbers are predicted. */
  readonly classes: number;
}

interface Near {
  /** For each predicted row the places of its nearest rows, nearest first, and their squared distances. */
  readonly count: number;
  readonly places: Int32Array;
  readonly distances: Float64Array;
}

/** Distances are the same whatever the number of neighbours: a curve measures them once. */
const measured = new WeakMap<object, WeakMap<Design, Near>>();

/** Neighbours that are looked for at once, so that a curve needs no second search. */
const LOOKED_FOR = 100;

function predictNeighbours(state: NeighboursState, design: Design): Float64Array[] {
  const { answers, weights, classes, byDistance } = state;
  const remembered = answers.length;
  const wanted = Math.min(state.neighbours, remembered);
  const known = measured.get(state.rows) ?? new WeakMap<Design, Near>();
  const found = known.get(design);
  const near =
    found && found.count >= wanted
      ? found
      : search(state, design, Math.min(remembered, Math.max(wanted, LOOKED_FOR)));
  measured.set(state.rows, known.set(design, near));
  const out = Array.from({ length: Math.max(1, classes) }, () => new Float64Array(design.rowCount));
  for (let row = 0; row < design.rowCount; row++) {
    const from = row * near.count;
    // A row that is met exactly counts alone, with all others that are.
    const exact = byDistance && near.distances[from] === 0;
    let total = 0;
    for (let k = from; k < from + wanted; k++) {
      const distance = near.distances[k] ?? 0;
      const place = near.places[k] ?? 0;
      const nearness = exact ? (distance === 0 ? 1 : 0) : byDistance ? 1 / Math.sqrt(distance) : 1;
      const counts = nearness * (weights ? (weights[place] ?? 0) : 1);
      total += counts;
      const answer = answers[place] ?? 0;
      const values = classes === 0 ? at(out, 0) : at(out, answer);
      values[row] = (values[row] ?? 0) + (classes === 0 ? counts * answer : counts);
    }
    for (const values of out) values[row] = total > 0 ? (values[row] ?? 0) / total : 1 / out.length;
  }
  return out;
}

function search({ rows, means, deviations, answers }: NeighboursState, design: Design, count: number): Near {
  const n = design.rowCount;
  const remembered = answers.length;
  const places = new Int32Array(n * count);
  const distances = new Float64Array(n * count);
  const width = rows.length;
  // Row after row, so that a distance is summed over neighbouring cells.
  const flat = new Float64Array(remembered * width);
  for (let c = 0; c < width; c++) {
    const own = at(rows, c);
    for (let r = 0; r < remembered; r++) flat[r * width + c] = own[r] ?? 0;
  }
  const query = new Float64Array(width);
  const heap = new NearestHeap(count);
  for (let row = 0; row < n; row++) {
    for (let c = 0; c < width; c++)
      query[c] = ((design.columns[c]?.[row] ?? 0) - at(means, c)) / at(deviations, c);
    heap.clear();
    for (let r = 0; r < remembered; r++) heap.offer(distanceTo(flat, r * width, query), r);
    heap.empty(places, distances, row * count);
  }
  return { count, places, distances };
}

/** Sum of squared differences of the cells from `from` on. */
function distanceTo(flat: Float64Array, from: number, query: Float64Array): number {
  let sum = 0;
  for (let c = 0; c < query.length; c++) {
    const difference = (flat[from + c] ?? 0) - (query[c] ?? 0);
    sum += difference * difference;
  }
  return sum;
}

export const neighboursForm: StateForm<NeighboursState> = {
  name: 'neighbours',
  predict: (state, sample) => predictNeighbours(state, sample.design()),
  sizeOf: (_, features) => ({ count: features, of: 'features' }),
};
