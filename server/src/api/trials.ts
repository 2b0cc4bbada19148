import type {
  Coefficient,
  FeatureDensity,
  Growth,
  Importance,
  MemberShare,
  ModelSize,
  PathPoint,
  Removed,
  ScreenBy,
  TreeRule,
  TreeState,
} from '@modest-sieve/core/models';
import type {
  Against,
  Arm,
  Choice,
  Dependence,
  Emphasis,
  Evidence,
  Figures,
  Luck,
  OneCase,
  PermutationImportance,
  ScreenedColumn,
  ScreeningLeak,
  Selection,
  SelectionWay,
  SettingSummary,
  SharedPlan,
  TrialPlan,
  Varied,
} from '@modest-sieve/core/evaluation';

// What the HTTP API takes and answers of trials: models that are fitted and judged over folds that were kept.

/** A trial that is to be run. */
export interface TrialRequest {
  readonly foldSetId: string;
  readonly plan: TrialPlan;
}

/** Every family of the task is to be run at default settings, or searched. */
export interface FamiliesRequest {
  readonly foldSetId: string;
  readonly plan: SharedPlan;
}

/** The rows that a model is looked at on. */
export type EvidenceRows = 'folds' | 'training' | 'validation' | 'held-out';

/** A trial as a line of the table of runs. */
export interface TrialInfo {
  readonly id: string;
  /** Empty for one that has none. */
  readonly name: string;
  readonly foldSetId: string;
  /** Number of the version of the data set. */
  readonly version: number;
  readonly plan: TrialPlan;
  readonly state: 'waiting' | 'done' | 'failed';
  readonly problem: { readonly code: string; readonly message: string } | null;
  /** The job that runs a waiting trial, and how far it is. */
  readonly job: {
    readonly id: string;
    readonly what: string;
    readonly done: number;
    readonly total: number;
  } | null;
  readonly result: TrialOutcome | null;
  /** Offered to exercises as an anchor of their marks. */
  readonly isReference: boolean;
  readonly createdAt: string;
}

/** What a trial came to. */
export interface TrialOutcome {
  /** The setting that was chosen, over the folds. */
  readonly chosen: SettingSummary;
  readonly settings: number;
  /** Of the model that was fitted to all training rows. */
  readonly size: ModelSize | null;
  readonly rows: number;
  /** Of that model on the rows that it is trained on, and on the validation part where there is one. */
  readonly training: Figures;
  readonly validation: Figures | null;
  /** Once somebody asked for them: each look wears the held-out rows out. */
  readonly heldOut: { readonly figures: Figures; readonly at: string; readonly by: string } | null;
  /** Time that it took to compute. */
  readonly seconds: number;
  readonly warnings: readonly string[];
}

/** A trial with everything that its views are drawn from. */
export interface TrialDetail extends TrialInfo {
  /** The settings that were varied, with their values. */
  readonly vary: readonly Varied[];
  readonly settings: readonly SettingSummary[];
  /** What the curve says, for each metric. */
  readonly choices: Readonly<Record<string, Choice | null>>;
  /** Place of the chosen setting. */
  readonly place: number;
  readonly model: FittedView | null;
  /** Of a search, for each metric how much of the best setting is luck; null where nothing was searched. */
  readonly luck?: Readonly<Record<string, Luck | null>> | null;
}

/** A fitted model as it is shown. */
export interface FittedView {
  /** Of the classes; none for numbers. */
  readonly labels: readonly string[];
  readonly features: readonly FeatureView[];
  readonly coefficients: readonly Coefficient[];
  readonly removed: readonly Removed[];
  readonly figures: Readonly<Record<string, number>>;
  readonly path: { readonly terms: readonly string[]; readonly points: readonly PathPoint[] } | null;
  readonly tree: TreeState | null;
  readonly rules: readonly TreeRule[];
  readonly importances: readonly Importance[];
  /** How its error changed as it grew; runs of earlier versions lack it. */
  readonly growth?: Growth | null;
  /** The models of a combination; runs of earlier versions lack it. */
  readonly members?: readonly MemberShare[];
  readonly densities: readonly FeatureDensity[];
}

/** A feature that one case is described by. */
export interface FeatureView {
  readonly name: string;
  readonly kind: 'number' | 'category' | 'words';
  /** Of a category. */
  readonly levels: readonly string[];
  /** Of numbers: what a missing cell counts as, and the range in the training rows. */
  readonly fill: number | null;
  readonly low: number | null;
  readonly high: number | null;
}

export type TrialEvidence = Evidence;
export type TrialAgainst = Against;

/** By which metric the best of all runs is sought. */
export interface RunsLuckRequest {
  readonly metric: string;
}

/** How much of the best of all runs over the same folds is luck. */
export interface RunsLuck {
  /** Null where fewer than two settings have a figure. */
  readonly luck: Luck | null;
  /** Runs that took part. */
  readonly runs: number;
}

/** A case that is to be predicted: a text for each feature. */
export interface CaseRequest {
  readonly cells: Readonly<Record<string, string>>;
}
export type CaseAnswer = OneCase;

/** A subgroup that a model is to give weight to: in three arms, over the folds of a run. */
export type ArmsRequest = Emphasis;
export type ArmInfo = Arm;

/** By which metric the features of a run are weighed. */
export interface ImportanceRequest {
  readonly metric: string;
}
/** What shuffling each feature costs the chosen setting of a run, over its folds. */
export type ColumnImportance = PermutationImportance;

/** Along which features, one or two, the model of a run is followed, and for which class. */
export interface DependenceRequest {
  readonly columns: readonly string[];
  /** Null for numbers, or for the positive class. */
  readonly label: string | null;
}
/** What the model of a run predicts along one feature, or two. */
export type ColumnDependence = Dependence;

/** How the features of a run are screened, and how many of them a model keeps. */
export interface ScreeningRequest {
  readonly by: ScreenBy;
  readonly keep: number;
  readonly metric: string;
}
/** The features of a run, each beside the target by itself, and its model after screening inside and outside the folds. */
export interface ColumnScreening {
  /** On the training rows, the strongest first. */
  readonly columns: readonly ScreenedColumn[];
  readonly leak: ScreeningLeak;
}

/** How features are chosen step by step for the model of a run. */
export interface SelectionRequest {
  readonly way: SelectionWay;
  /** How many features a forward selection goes up to. */
  readonly most: number;
  readonly metric: string;
}
/** What the steps arrive at, judged inside the folds and outside. */
export type FeatureSelection = Selection;

/** Features to be saved under a name. */
export interface FeatureSetRequest {
  readonly name: string;
  readonly features: readonly string[];
}
/** Features of a data set that were saved by name. */
export interface FeatureSetInfo extends FeatureSetRequest {
  readonly id: string;
}

/** Whether a trial is offered to exercises. */
export interface ReferenceRequest {
  readonly isReference: boolean;
}

/** A reference run as an exercise sees it. */
export interface ReferenceRun {
  readonly id: string;
  readonly title: string;
  /** On the held-out rows of the split, by metric. */
  readonly figures: Figures;
}
