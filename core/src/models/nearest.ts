import { at } from '../numbers.js';
import { standardise } from './linear/standardised.js';
import { modelKind, type Training } from './model.js';
import type { Design } from './prepared/design.js';

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

export const nearest = modelKind({
  key: 'nearest',
  title: 'nearest neighbours',
  about:
    'The training rows that are nearest by the sum of squared differences of standardised features (deviation with n): the shares of their classes, or the mean of their numbers, each counting alike or by one over its distance. Of rows equally far away the earlier comes first. Few neighbours make a complex model: one neighbour knows every training row by heart.',
  source: 'scikit-learn, StandardScaler with KNeighborsClassifier and KNeighborsRegressor',
  tasks: ['binary', 'multiclass', 'regression'],
  along: [
    { key: 'neighbours', larger: 'simple', settings: [1, 2, 3, 5, 8, 12, 20, 35, 60, 100], together: true },
  ],
  parameters: {
    neighbours: { type: 'number', label: 'number of neighbours', min: 1, max: 10_000, step: 1, start: 5 },
    weights: {
      type: 'choice',
      label: 'how neighbours count',
      choices: [
        { value: 'uniform', text: 'counting alike' },
        { value: 'distance', text: 'counting by nearness' },
      ],
    },
  },
  sentence: () => '{neighbours} of them, {weights}',
  fit: (training, { neighbours, weights }) => ({
    state: stateOf(training, neighbours, weights === 'distance'),
    description: {},
    warnings:
      neighbours > training.rowCount
        ? [`There are only ${training.rowCount} training rows: all of them are neighbours.`]
        : [],
  }),
  fitAlong: (training, { weights, ...values }, key, settings) => {
    if (key !== 'neighbours') return null;
    const all = stateOf(training, values.neighbours, weights === 'distance');
    return settings.map((neighbours) => ({ ...all, neighbours }));
  },
});

function stateOf(training: Training, neighbours: number, byDistance: boolean): NeighboursState {
  const { columns, means, deviations } = standardise(training.design(), null);
  const { target, weights } = training;
  return {
    form: 'neighbours',
    neighbours,
    byDistance,
    means,
    deviations,
    rows: columns,
    answers: target.kind === 'numbers' ? target.values : target.codes,
    weights,
    classes: target.kind === 'numbers' ? 0 : target.labels.length,
  };
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

export function predictNeighbours(state: NeighboursState, design: Design): Float64Array[] {
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

/**
 * The nearest of many, with the farthest of them on top (Williams, Communications of the ACM 7, 1964, algorithm 232). Of
 * equally far ones the later is farther.
 */
class NearestHeap {
  private size = 0;
  private readonly places: Int32Array;
  private readonly distances: Float64Array;

  constructor(private readonly most: number) {
    this.places = new Int32Array(most);
    this.distances = new Float64Array(most);
  }

  clear(): void {
    this.size = 0;
  }

  offer(distance: number, place: number): void {
    if (this.size < this.most) {
      this.rise(this.size++, distance, place);
      return;
    }
    // Places are offered in ascending order, so that one as far as the farthest does not come in.
    if (distance < (this.distances[0] ?? 0)) this.sink(distance, place);
  }

  /** Writes all from the nearest on, and leaves the heap empty. */
  empty(places: Int32Array, distances: Float64Array, from: number): void {
    while (this.size > 0) {
      const last = --this.size;
      places[from + last] = this.places[0] ?? 0;
      distances[from + last] = this.distances[0] ?? 0;
      this.sink(this.distances[last] ?? 0, this.places[last] ?? 0);
    }
  }

  private rise(start: number, distance: number, place: number): void {
    let at = start;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (!this.isFarther(distance, place, parent)) break;
      this.copy(parent, at);
      at = parent;
    }
    this.put(at, distance, place);
  }

  /** Puts one in the place of the farthest. */
  private sink(distance: number, place: number): void {
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= this.size) break;
      if (
        child + 1 < this.size &&
        this.isFarther(this.distances[child + 1] ?? 0, this.places[child + 1] ?? 0, child)
      )
        child++;
      if (this.isFarther(distance, place, child)) break;
      this.copy(child, at);
      at = child;
    }
    this.put(at, distance, place);
  }

  private isFarther(distance: number, place: number, than: number): boolean {
    const other = this.distances[than] ?? 0;
    return distance > other || (distance === other && place > (this.places[than] ?? 0));
  }

  private copy(from: number, to: number): void {
    this.put(to, this.distances[from] ?? 0, this.places[from] ?? 0);
  }

  private put(at: number, distance: number, place: number): void {
    this.distances[at] = distance;
    this.places[at] = place;
  }
}
