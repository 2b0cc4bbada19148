import type { Metric } from '../metrics/metric.js';
import type { Choice, SettingSummary } from './summary.js';

/** What is known of a run when it is judged. */
export interface Run {
  readonly settings: readonly SettingSummary[];
  readonly choices: Readonly<Record<string, Choice | null>>;
  readonly place: number;
  /** The metric that it is judged by. */
  readonly metric: Metric;
  /** The names of the varied settings, by their keys. */
  readonly labels: Readonly<Record<string, string>>;
  /** The figure on the validation part; null where there is none. */
  readonly validation: number | null;
  /** Settings that can be: a curve that ends at such a limit ends where nothing is beyond. */
  readonly limits: Readonly<Record<string, { readonly min?: number; readonly max?: number }>>;
  /** Folds in one repeat. */
  readonly folds: number;
  /** The best baseline over the same folds; null where none was fitted. */
  readonly baseline: { readonly mean: number; readonly folds: readonly (number | null)[] } | null;
  /** Runs that were tried on these folds. */
  readonly tried: number;
  /** Whether the run is itself a baseline. */
  readonly isBaseline: boolean;
}
