import type { GeneratedItem } from '../../generators/generator.js';
import type { Check } from '../../../foundation/check.js';
import type { ScoredRows } from '../../marking/scored.js';
import type { FurtherScore } from '../../marking/further-score.js';
import type { MarkScheme } from '../../marking/scheme.js';
import type { PlanValue } from '../../../data/sentence/parameter.js';
import type { ModelResult, ModelRun } from './model-run.js';

/** What every question has. */
export interface QuestionHead {
  /** Names it within its exercise; it never changes. */
  readonly id: string;
  readonly title: string;
  /** Markdown; `{names}` of what is drawn stand for their values. */
  readonly text: string;
}

/** A sentence's values, by the keys of its parameters. */
export type SentenceValues = Readonly<Record<string, PlanValue>>;

/** What a student hands in to one question. */
export interface Answer {
  readonly file: { readonly name: string; readonly bytes: Uint8Array } | null;
  /** What was typed or chosen, by the keys of the fields. */
  readonly fields: Readonly<Record<string, string>>;
  /** Of a model: what it said of the rows, which is found before it is read as an answer; left out for other kinds. */
  readonly run?: ModelRun | null;
}

/** Something that is typed or chosen. */
export interface Field {
  readonly key: string;
  readonly label: string;
  /** What may be chosen; null where a number is typed. */
  readonly choices: readonly { readonly value: string; readonly text: string }[] | null;
  /** Set where several of the choices may be chosen; their values stand in the answer apart by semicolons. */
  readonly several?: true;
}

/** What is asked for as a file. */
export interface FileAsked {
  /** Columns of its plainest form. */
  readonly columns: readonly string[];
  /** Other forms that are taken, and what they must be, as sentences. */
  readonly forms: readonly string[];
  /** Whether the fields can be answered in its place. */
  readonly optional: boolean;
}

/** Whether an answer can be marked, and what it holds. */
export interface Read<C> {
  readonly checks: readonly Check[];
  /** Rows of the file; null where there is none or it could not be read. */
  readonly rows: number | null;
  /** Null unless every check holds. */
  readonly content: C | null;
}

/** A check that earns marks. */
export interface Judgement {
  readonly check: Check;
  readonly marks: number;
  readonly outOf: number;
}

/** What an answer came to, once it could be marked. */
export interface Marked {
  readonly judged: readonly Judgement[];
  readonly marks: number;
  /** Of predictions; null for other kinds. */
  readonly scored: Scored | null;
  /** What decides which submission counts, where that is not the marks: the marks of the score on the feedback rows. */
  readonly standing?: number;
  /** Of a model; left out for other kinds. */
  readonly model?: ModelResult;
}

export interface Scored {
  readonly metric: string;
  readonly final: ScoredRows;
  /** Null where no feedback rows were drawn. */
  readonly feedback: ScoredRows | null;
  /** What guessing reaches: where the marks begin. Results of earlier versions have none. */
  readonly anchor?: number;
  /** The line that gave the marks: it begins at the floor, with the benefit of the doubt in it. Results of earlier versions have none. */
  readonly line?: MarkScheme;
  /** Whether labels were derived from probabilities at 0.5. */
  readonly derivedLabels: boolean;
  /** Marks of the first figure, and the further ones; left out where there is but one. */
  readonly first?: number;
  readonly further?: readonly FurtherScore[];
}

/** A question as one student sees it: everything that may be known of it before it is answered. */
export interface SheetOf<Kind extends string = string> {
  readonly id: string;
  readonly kind: Kind;
  readonly title: string;
  /** Markdown, with the student's own figures. */
  readonly text: string;
  readonly marks: number;
  readonly table: GeneratedItem['table'];
  readonly file: FileAsked | null;
  readonly fields: readonly Field[];
  /** What is checked, as a sentence. */
  readonly checked: string;
}
