/** A curve of a run: settings from simple to complex, with the mean over the folds. */
export interface RunCurve {
  readonly metric: string;
  /** The family of its models; left out in keys of earlier versions. */
  readonly family?: string;
  readonly points: readonly {
    readonly setting: string;
    readonly mean: number | null;
    readonly se: number | null;
    /** Mean on the rows that were trained on; left out in keys of earlier versions. */
    readonly training?: number | null;
  }[];
}
