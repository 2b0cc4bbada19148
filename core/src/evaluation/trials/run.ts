import type { Metric } from '../../metrics/metric.js';
import type { Luck } from '../search/luck.js';
import type { Choice } from './summary.js';
import type { SettingSummary } from './setting-summary.js';

/** A metric over folds. */
export interface OverFolds {
  readonly mean: number;
  readonly folds: readonly (number | null)[];
}

/** The same model over the same rows in folds made in two ways; figures of the metric that the run is judged by. */
export interface GroupingPair {
  /** The column whose rows stay together in the grouped folds. */
  readonly column: string;
  readonly random: OverFolds & { readonly k: number };
  readonly grouped: OverFolds & { readonly k: number };
}

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
  readonly baseline: OverFolds | null;
  /** Accuracy of always giving the most frequent class, over the same folds; null where that was not fitted. */
  readonly majority: OverFolds | null;
  /** The same model over random and over grouped folds; null where it was not run over both. */
  readonly grouping: GroupingPair | null;
  /** Runs that were tried on these folds. */
  readonly tried: number;
  /** Of a search: how much of the best setting's figure is luck, where that is known. None where every value was tried. */
  readonly search?: { readonly luck: Luck | null } | null;
  /** Whether the run is itself a baseline. */
  readonly isBaseline: boolean;
}
