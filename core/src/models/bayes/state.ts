/** How likely a feature's value is in each class. */
export type BayesPart =
  /** A column of the design, or a feature of numbers, with a normal density in each class. */
  | {
      readonly kind: 'normal';
      readonly of: 'term' | 'feature';
      readonly place: number;
      readonly means: readonly number[];
      readonly variances: readonly number[];
    }
  /** A column of the design: above 0 or not. */
  | {
      readonly kind: 'bernoulli';
      readonly place: number;
      readonly logYes: readonly number[];
      readonly logNo: readonly number[];
    }
  /** A column of the design that is counted. */
  | { readonly kind: 'counts'; readonly place: number; readonly logs: readonly number[] }
  /** The words of a feature. */
  | {
      readonly kind: 'words';
      readonly place: number;
      /** For each class one for each word. */
      readonly logs: readonly (readonly number[])[];
    }
  /** A feature of numbers with a sum of normal kernels in each class. */
  | {
      readonly kind: 'kernel';
      readonly place: number;
      readonly classes: readonly {
        readonly values: readonly number[];
        /** Of each value, summing to 1. */
        readonly shares: readonly number[];
        readonly bandwidth: number;
      }[];
    }
  /** A category: for each class one for each level. */
  | { readonly kind: 'levels'; readonly place: number; readonly logs: readonly (readonly number[])[] };

export interface BayesState {
  readonly form: 'bayes';
  /** Logarithms of the shares of the classes; a class without rows has none. */
  readonly logPriors: readonly (number | null)[];
  readonly parts: readonly BayesPart[];
}
