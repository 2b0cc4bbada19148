import type { QuestionHead, SentenceValues } from '../contract/answer.js';
import type { AnswerKey } from '../../files/judge.js';
import type { TargetRules } from '../../files/rules.js';
import type { Predictions } from '../../files/reader.js';
import type { ColumnKind, Table } from '../../../data/table/table.js';
import type { ModelReport } from '../contract/model-run.js';
import type { FurtherFigure, FurtherSaid } from '../scored/further.js';
import type { MarkScheme } from '../../marking/scheme.js';

/** A model that is handed in and run here. */
export interface ModelQuestion extends QuestionHead {
  readonly kind: 'model';
  readonly metric: string;
  readonly scheme: MarkScheme;
  /** Figures beside that of `metric`, with marks of their own; left out where there are none. */
  readonly further?: readonly FurtherFigure[];
  readonly values: SentenceValues;
}

/** What a model must look like. */
export interface ModelRules extends TargetRules {
  readonly metric: string;
  readonly scheme: MarkScheme;
  readonly further?: readonly FurtherSaid[];
  /** Whether models of any format are taken, or of which. */
  readonly takes: 'any' | ModelReport['format'];
  /** How the terms of a table of coefficients come to a prediction. */
  readonly link: 'identity' | 'logit' | 'log';
  /** The columns that a model may predict from, in the order of the pack. */
  readonly columns: readonly { readonly name: string; readonly kind: ColumnKind }[];
  /** Columns of the training file that it may not. */
  readonly forbidden: readonly string[];
  /** Those among them that a slip is named by; left out in rules of earlier versions. */
  readonly target?: string;
  readonly identifier?: string | null;
  /** The first training rows of the pack: the cells of `columns`, null where one is missing. */
  readonly examples: readonly (readonly (string | null)[])[];
  readonly says: string;
}

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
