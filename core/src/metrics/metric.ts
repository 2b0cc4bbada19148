import type { Task } from '../data/table/roles.js';

/** Predictions of classes on n rows. Codes point into `labels`. */
export interface LabelData {
  readonly labels: readonly string[];
  readonly truth: Int32Array;
  readonly predicted: Int32Array;
  /** For each label, n probabilities; null where only labels were predicted. */
  readonly probabilities: readonly Float64Array[] | null;
  /** The positive label of a binary task; null for more classes. */
  readonly positive: number | null;
  /** Row weights; null means 1 for each row. */
  readonly weights: Float64Array | null;
}

/** Predictions of numbers on n rows. */
export interface NumberData {
  readonly truth: Float64Array;
  readonly predicted: Float64Array;
  readonly weights: Float64Array | null;
  /** Features that the predictions were made from, where it is known. */
  readonly features: number | null;
}

/** A figure, or the reason why there is none. */
export type Figure = { readonly value: number } | Undefined;

/** No figure, and why. */
export interface Undefined {
  readonly value: null;
  readonly reason: string;
}

export const undefinedBecause = (reason: string): Undefined => ({ value: null, reason });

/** A quotient, or the reason why its denominator is nought. */
export function ratio(numerator: number, denominator: number, reason: string): Figure {
  return denominator === 0 ? undefinedBecause(reason) : { value: numerator / denominator };
}

/** Rows for which something holds, out of the rows that count. */
export interface Proportion {
  readonly hits: number;
  readonly of: number;
}

interface MetricBase {
  /** Key in files and in the command line's output. */
  readonly key: string;
  /** Name in sentences, without an article. */
  readonly name: string;
  readonly definition: string;
  readonly source: string;
  readonly better: 'higher' | 'lower';
  /** Smallest and largest possible value; null where there is none. */
  readonly range: readonly [number | null, number | null];
  readonly tasks: readonly Task[];
  /** Set where the figure has no weighted meaning. */
  readonly unweighted?: true;
  /** Set where the number of features must be known, which it is not of a submission. */
  readonly needsFeatures?: true;
}

export interface LabelMetric extends MetricBase {
  /** Whether predicted labels are enough, or the probabilities themselves are judged. */
  readonly needs: 'labels' | 'probabilities';
  readonly compute: (data: LabelData) => Figure;
  /** For shares of rows: the counts behind the figure, from which Wilson's interval follows. */
  readonly proportion?: (data: LabelData) => Proportion;
}

export interface NumberMetric extends MetricBase {
  readonly needs: 'numbers';
  /** What the figure is counted in. */
  readonly unit: 'target' | 'target²' | 'none';
  readonly compute: (data: NumberData) => Figure;
}

export type Metric = LabelMetric | NumberMetric;

/** A label metric that is a share of rows. */
export function shareMetric(
  base: Omit<LabelMetric, 'compute' | 'needs' | 'range' | 'proportion'> & {
    readonly proportion: (data: LabelData) => Proportion;
    readonly undefinedWhen: string;
  },
): LabelMetric {
  const { undefinedWhen, ...rest } = base;
  return {
    ...rest,
    needs: 'labels',
    range: [0, 1],
    compute: (data) => {
      const { hits, of } = base.proportion(data);
      return ratio(hits, of, undefinedWhen);
    },
  };
}
