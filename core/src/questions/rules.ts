import type { FileSize } from '../check/file-limits.js';
import type { AnswerKey } from '../check/judge.js';
import type { PredictionRules, TargetRules } from '../check/rules.js';
import type { Predictions } from '../check/reader.js';
import type { ColumnKind, Table } from '../table/table.js';
import type { ModelReport } from './model-run.js';
import type { Drawn } from '../draws/draw.js';
import type { MarkScheme } from '../marking/scheme.js';
import type { Planned } from '../sentence/sentence.js';
import type { RunCurve } from './kind.js';
import type { Refit } from './refit.js';

/** Names of the rows that a file must name, in the order of the pack. */
export interface NamedRows {
  readonly identifier: string;
  readonly identifiers: readonly string[];
}

/** What an answer must look like, by kind of question. Students may know all of it, and it tells no answer. */
export type Rules =
  PredictionsRules | ModelRules | SplitRules | FoldsRules | CurveRules | ValuesRules | ChoiceRules;

export interface PredictionsRules extends PredictionRules {
  readonly metric: string;
  readonly scheme: MarkScheme;
}

/** What a model must look like. */
export interface ModelRules extends TargetRules {
  readonly metric: string;
  readonly scheme: MarkScheme;
  /** Whether models of any format are taken, or of which. */
  readonly takes: 'any' | ModelReport['format'];
  /** How the terms of a table of coefficients come to a prediction. */
  readonly link: 'identity' | 'logit' | 'log';
  /** The columns that a model may predict from, in the order of the pack. */
  readonly columns: readonly { readonly name: string; readonly kind: ColumnKind }[];
  /** Columns of the training file that it may not. */
  readonly forbidden: readonly string[];
  /** The first training rows of the pack: the cells of `columns`, null where one is missing. */
  readonly examples: readonly (readonly (string | null)[])[];
  readonly says: string;
}

export interface SplitRules extends NamedRows {
  readonly parts: readonly string[];
  readonly says: string;
}

export interface FoldsRules extends NamedRows {
  readonly k: number;
  /** What the file's predictions must look like; null where none are asked for. */
  readonly predictions: PredictionRules | null;
  readonly metric: string | null;
  readonly says: string;
}

export interface CurveRules {
  readonly setting: string;
  /** From simple to complex. */
  readonly settings: readonly string[];
  readonly needsErrors: boolean;
  readonly says: string;
}

/** A figure that is asked for, without its value. */
export interface FigureAsked {
  readonly key: string;
  readonly name: string;
  /** Left out in rules of earlier versions. */
  readonly convention?: string | null;
}

export interface ValuesRules {
  readonly figures: Planned;
  /** Computed from the data: the same for all students, without the figures. Null where each student's are drawn. */
  readonly computed: (Pick<Drawn, 'given' | 'table'> & { readonly asked: readonly FigureAsked[] }) | null;
  readonly says: string;
}

export interface ChoiceRules {
  readonly manner: 'one' | 'each';
  /** Texts, or keys of the library, whose texts are drawn. */
  readonly statements: readonly ({ readonly text: string } | { readonly reading: string })[];
}

/** As much of the rules as says how large an answer's file can be. */
export const fileSizeOf = (rules: Rules): FileSize => ({
  ...('identifiers' in rules ? { identifiers: rules.identifiers } : {}),
  ...('labels' in rules ? { labels: rules.labels } : {}),
  ...('settings' in rules ? { settings: rules.settings } : {}),
  ...('takes' in rules ? { model: true } : {}),
});

/** The answers to a question, by its kind. They never leave the server but to staff. */
export type Keys = AnswerKey | ModelKey | RowsKey | CurveKey | ValuesKey | ChoiceKey;

/** What a model is run on and judged by. It never leaves the server but to staff. */
export interface ModelKey extends AnswerKey {
  /** Features of the held-out rows, in the order of the answers. */
  readonly features: Table;
  /** The training rows: features and answers, in the order of the pack. */
  readonly training: { readonly features: Table; readonly answers: AnswerKey };
  /** What a row without a prediction is taken to say: the commonest class of the training rows, or their mean. */
  readonly without: number;
  /** The reference runs, with what they say of both. */
  readonly references: readonly {
    readonly name: string;
    readonly training: Predictions;
    readonly heldOut: Predictions;
  }[];
  /** Of the reference run that coefficients are compared with; null where they are not compared. */
  readonly coefficients:
    readonly { readonly term: string; readonly estimate: number; readonly se: number | null }[] | null;
}

/** What an assignment may be off by, beyond the points that the question allows. */
export interface Bounds {
  /** Rows by which the size of a part may be off. */
  readonly rows: number;
  /** Rows by which the largest and the smallest fold may differ. */
  readonly range: number;
  /** By which the share of a class in a part, or the distribution of a number, may be off; from 0 to 1. */
  readonly share: number;
}

/** What judges a split or folds: codes of each of the rows that were given, −1 where one has none. */
export interface RowsKey {
  readonly strata: {
    readonly column: string;
    readonly labels: readonly string[];
    readonly codes: Int32Array;
    /** The numbers themselves, where the column has too many of them to be classes; null or left out otherwise. */
    readonly values?: Float64Array | null;
  } | null;
  readonly groups: {
    readonly column: string;
    readonly labels: readonly string[];
    readonly codes: Int32Array;
  } | null;
  readonly time: { readonly column: string; readonly values: Float64Array } | null;
  /** For each row the first row with the same features. */
  readonly twins: Int32Array;
  /** What an honest assignment may be off by; keys of earlier versions have none. */
  readonly bounds?: Bounds;
  /** Of the target, where predictions are judged; null otherwise. */
  readonly truth: AnswerKey | null;
  /** Mean and standard error of the reference runs' metric; null where there is none. */
  readonly references: readonly { readonly mean: number; readonly se: number }[];
  /** The model that predictions are compared with; null or left out where any model may be used. */
  readonly refit?: Refit | null;
}

export interface CurveKey {
  readonly curve: RunCurve | null;
}

export interface ValuesKey {
  /** Null where each student's are drawn. */
  readonly computed: Drawn | null;
}

export interface ChoiceKey {
  /** For each statement, whether it holds; null where that is drawn. */
  readonly truths: readonly (boolean | null)[];
}
