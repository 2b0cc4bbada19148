import type { PlanValue, Roles, Step } from '@modest-sieve/core/data';
import type { TrialPlan } from '@modest-sieve/core/evaluation';
import type { FoldSentence, SplitPlan } from '@modest-sieve/core/splitting';

/** A table of the demo: how it is read, what its columns are for and mean, how it is prepared and split. */
export interface DemoTable {
  readonly file: string;
  readonly csv: () => string;
  readonly roles: Roles;
  readonly descriptions: Readonly<Record<string, string>>;
  readonly steps: readonly Step[];
  /** The split that is kept beside those of the exercises; null where there are exercises. */
  readonly split: SplitPlan | null;
  readonly folds: FoldSentence;
  readonly trials: readonly DemoTrial[];
}

/** A model that the demo's instructor has tried. */
export interface DemoTrial {
  readonly model: string;
  readonly values?: Readonly<Record<string, PlanValue>>;
  readonly vary?: TrialPlan['vary'];
  readonly search?: TrialPlan['search'];
  /** Offered to exercises as an anchor of their marks. */
  readonly reference?: boolean;
}
