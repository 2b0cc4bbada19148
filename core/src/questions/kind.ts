import { SieveError } from '../errors.js';
import type { FoldAssignment } from '../folds/fold-assignment.js';
import type { Fitted } from '../models/fitted.js';
import type { Kinded } from '../sentence/parameter.js';
import { PUBLIC_SECRET, type Secret } from '../random/secret.js';
import type { SplitPlan } from '../split/split-kinds.js';
import type { Roles } from '../table/roles.js';
import type { Table } from '../table/table.js';
import type { Answer, Marked, Question, QuestionKindKey, Read, Sheet } from './question.js';
import type { Keys, Rules } from './rules.js';

/** As much of the data as composing a question takes. */
export interface Subject {
  readonly columns: readonly Kinded[];
  readonly roles: Roles;
}

/** The columns that students get, by which a question may ask. */
export const givenColumns = ({ columns, roles }: Subject): readonly Kinded[] =>
  columns.filter(({ name }) => !roles.withheld.includes(name));

/** A curve of a run: settings from simple to complex, with the mean over the folds. */
export interface RunCurve {
  readonly metric: string;
  readonly points: readonly {
    readonly setting: string;
    readonly mean: number | null;
    readonly se: number | null;
    /** Mean on the rows that were trained on; left out in keys of earlier versions. */
    readonly training?: number | null;
  }[];
}

/** What keys are computed from. */
export interface Material {
  readonly table: Table;
  readonly roles: Roles;
  readonly plan: SplitPlan;
  /** Part of each row, as `splitRows` gives it. */
  readonly parts: Int8Array;
  readonly folds: FoldAssignment | null;
  /** For each row of the table what it is for in the data set's reserve: `FEEDBACK`, `FINAL`, or 0 for no held-out row. */
  readonly division: Uint8Array;
  /** Of the exercise: orders, identifiers and wording follow from it, and nobody else can predict them. */
  readonly secret: Secret;
  /** The models of the reference runs. */
  readonly references: readonly Fitted[];
  /** Curves of runs by their ids. */
  readonly curves: Readonly<Record<string, RunCurve>>;
}

/** A file of the pack. */
export interface PackContent {
  readonly name: string;
  readonly text: string;
  readonly shape: readonly [number, number] | null;
}

export interface Made<R, K> {
  readonly rules: R;
  readonly key: K;
  /** A file that is taken, and knows nothing; null where nothing is handed in as a file. */
  readonly example: string | null;
  /** How the key came about, as sentences for staff. */
  readonly about: readonly string[];
}

/** For whom a question's variant is generated. */
export interface Who {
  /** Of the exercise. */
  readonly secret: Secret;
  /** Identifier of the question, so that two questions of one kind give different variants. */
  readonly question: string;
  /** Identifier of the student. */
  readonly id: string;
}

/** For file checks, which know nobody's variant. */
export const NOBODY: Who = { secret: PUBLIC_SECRET, question: '', id: '' };

/** How an answer is marked beyond its question and key. */
export interface Marking<C> {
  readonly who: Who;
  /** Whether the steps of *only when better* are needed. */
  readonly stepped: boolean;
  /** The student's answer whose score was the last to be shown; null for none. */
  readonly before: C | null;
}

/** What a file says, in the order of the rules. */
export interface Given {
  readonly names: readonly string[];
  /** Of the thing at a place. */
  readonly text: (place: number) => string;
}

export type QuestionOf<K extends QuestionKindKey> = Extract<Question, { readonly kind: K }>;

/**
 * One kind of question. Methods take what belongs to their own kind: the registry's users pass a question together with
 * the rules and the key that were made of it.
 */
export interface QuestionKind<Q extends Question = Question, R = Rules, K = Keys, C = unknown> {
  readonly key: Q['kind'];
  /** As a menu has it. */
  readonly title: string;
  /** What is handed in and what is checked, for the documentation. */
  readonly about: string;
  /** A question as it is begun. */
  begin(id: string, subject: Subject): Q;
  /** @throws SieveError with the field that does not fit */
  check(question: Q, subject: Subject): void;
  /** Whether the key hangs on the reference runs of the split, which may be others later. */
  usesRuns(question: Q): boolean;
  /** Computes the key. @throws SieveError where the data have none */
  make(question: Q, material: Material): Made<R, K>;
  /** Whether each student sees something else, which follows from the secret of the exercise. */
  isPersonal(rules: R): boolean;
  /** What a student sees. */
  sheet(question: Known<Q>, rules: R, who: Who): Sheet;
  /** File checks, which know no answer: in the browser before an attempt is spent, and on the server again. */
  read(answer: Answer, rules: R, who: Who): Read<C>;
  mark(question: Q, content: C, rules: R, key: K, marking: Marking<C>): Marked;
  /** What a file says of each thing that is asked for; null for what is answered in fields. */
  given(content: C, rules: R): Given | null;
}

/** As much of a question as students may know. */
export type Known<Q extends Question> = Pick<Q, 'id' | 'kind' | 'title' | 'text'> & {
  readonly marks: number;
};

/** The head of a sheet: named one by one, since a question given whole holds what students may not know. */
export const headOf = <Q extends Question>({ id, kind, title, text, marks }: Known<Q>) => ({
  id,
  kind,
  title,
  text,
  marks,
});

export const questionKind = <Q extends Question, R extends Rules, K extends Keys, C>(
  kind: QuestionKind<Q, R, K, C>,
): QuestionKind => kind;

const LARGEST_MARKS = 1000;

/** @throws SieveError `marks` */
export function checkMarks(marks: number): void {
  if (!(marks > 0 && marks <= LARGEST_MARKS))
    throw new SieveError('marks', 'All marks are a number above 0, up to 1,000.', { field: 'marks' });
}
