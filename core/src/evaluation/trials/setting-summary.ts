/** A metric of one setting over the folds. */
export interface MetricSummary {
  readonly mean: number | null;
  readonly se: number | null;
  /** In each fold, in order; null where it is undefined. */
  readonly folds: readonly (number | null)[];
  /** Mean on the training rows. */
  readonly train: number | null;
  /** How much better it is on training rows than on held-out rows. */
  readonly gap: number | null;
  /** Why there is no mean. */
  readonly reason: string | null;
}

export interface SettingSummary {
  /** The varied settings; none where nothing varies. */
  readonly values: Readonly<Record<string, number>>;
  readonly metrics: Readonly<Record<string, MetricSummary>>;
  /** Mean size over the folds. */
  readonly size: number | null;
}
