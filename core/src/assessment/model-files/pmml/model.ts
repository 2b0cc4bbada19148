import type { Around, DataField } from './fields.js';
import type { Row, Value } from './row.js';
import type { Scope } from './scope.js';

/** What a model says of a row. */
export interface Score {
  /** A number, or a class; null where it says nothing. */
  readonly value: Value;
  /** Of the classes, in their order; null for numbers, and where nothing is said. */
  readonly shares: Float64Array | null;
}

export const NOTHING: Score = { value: null, shares: null };

/** The labels of a target, which may be found one after another while a file is read. */
export class Classes {
  readonly labels: string[] = [];
  private readonly places = new Map<string, number>();

  place(label: string): number {
    let place = this.places.get(label);
    if (place === undefined) {
      place = this.labels.push(label) - 1;
      this.places.set(label, place);
    }
    return place;
  }
}

/** A model that can be asked for a row. */
export interface Scorer {
  readonly isClassification: boolean;
  /** Null for numbers. */
  readonly classes: Classes | null;
  readonly score: (row: Row) => Score;
}

/** What an element reads itself with. */
export interface Context {
  /** Around the model. */
  readonly scope: Scope;
  /** Null within another model. */
  readonly around: Around | null;
  /** Where classes are those of the model around. */
  readonly classes: Classes | null;
  /** What is known of targets. */
  readonly targets: ReadonlyMap<string, DataField>;
}

/** The class with the largest share, the first of equal ones, beside the shares. */
export function likeliestOf(shares: Float64Array, { labels }: Classes): Score {
  let best = 0;
  for (let i = 1; i < shares.length; i++) if ((shares[i] ?? 0) > (shares[best] ?? 0)) best = i;
  const sum = shares.reduce((a, b) => a + b, 0);
  return Number.isFinite(sum) && sum > 0 ? { value: labels[best] ?? null, shares } : NOTHING;
}

/** Shares that sum to 1; as they are where they sum to nothing. */
export function normalised(shares: Float64Array): Float64Array {
  const sum = shares.reduce((a, b) => a + b, 0);
  return sum > 0 ? shares.map((share) => share / sum) : shares;
}

/** Shares in proportion to the exponentials of values, without overflow. */
export function softmax(values: Float64Array): Float64Array {
  const most = values.reduce((a, b) => Math.max(a, b), -Infinity);
  return normalised(values.map((value) => Math.exp(value - most)));
}
