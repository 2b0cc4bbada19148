import type { SentenceKind } from '../../../data/sentence/sentence.js';
import type { Answer, Marked, QuestionHead, SheetOf, Read } from './answer.js';
import type { Body } from './body.js';
import type { FileSlip } from '../../slips/contract/file-slip.js';
import type { FoundSlip } from '../../slips/contract/slip.js';
import type { Respondent } from '../../generators/respondent.js';
import type { Material } from '../../material/material.js';
import { SieveError } from '../../../foundation/errors.js';
import type { ColumnInfo } from '../../../data/sentence/parameter.js';
import type { Roles } from '../../../data/table/roles.js';

/** A question of any kind. */
export interface AnyQuestion extends QuestionHead {
  readonly kind: string;
}

/** As much of the data as composing a question takes. */
export interface Subject {
  readonly columns: readonly ColumnInfo[];
  readonly roles: Roles;
}

/** The columns that students get, by which a question may ask. */
export const givenColumns = ({ columns, roles }: Subject): readonly ColumnInfo[] =>
  columns.filter(({ name }) => !roles.withheld.includes(name));

/** A file of the pack. */
export interface PackContent {
  readonly name: string;
  readonly text: string;
  readonly shape: readonly [number, number] | null;
}

export interface PreparedQuestion<R, K> {
  readonly rules: R;
  readonly key: K;
  /** A file that is taken, and knows nothing; null where nothing is handed in as a file. */
  readonly example: string | null;
  /** How the key came about, as sentences for staff. */
  readonly about: readonly string[];
}

/** What is right in a field: a number with the range that is accepted where there is one, or what is to be chosen. */
export type Right =
  | { readonly value: number; readonly between?: readonly [number, number] }
  | { readonly chosen: readonly string[] };

/** A slip in an answer to a question. */
export type SlipIn = Omit<FoundSlip, 'question'>;

/** The slips of a list that are found in a file. */
export const slipsIn = <F>(slips: readonly FileSlip<F>[], file: F): SlipIn[] =>
  slips.flatMap(({ id, test }) => {
    const evidence = test(file);
    return evidence === null ? [] : [{ id, field: null, evidence }];
  });

/** How an answer is marked beyond its question and key. */
export interface Marking<C> {
  readonly who: Respondent;
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

/**
 * One kind of question. Methods take what belongs to their own kind: the registry's users pass a question together with
 * the rules and the key that were made of it.
 */
export interface QuestionKind<Q extends AnyQuestion = AnyQuestion, R = unknown, K = unknown, C = unknown> {
  readonly key: Q['kind'];
  /** As a menu has it. */
  readonly title: string;
  /** What is handed in and what is checked, for the documentation. */
  readonly about: string;
  /** Its settings as one sentence; null for a kind whose settings are not a sentence. */
  readonly sentence: SentenceKind | null;
  /**
   * What earns the marks: the score on the final rows; the student's own work on rows that the student has; or a key that is
   * right or wrong. What students see of it, and when, follows from this.
   */
  readonly markedBy: 'score' | 'work' | 'key';
  /** Ids of the checks of its own that ask whether the work is there: where one fails, students see it at once. */
  readonly plausibility: readonly string[];
  /** Whether what is handed in is run, in a process of its own, before it is read. */
  readonly isRun: boolean;
  /** Whether statements or figures may be the same for all students, though their order is not. */
  readonly isShared: boolean;
  /** Reads what the kind takes of a body; what is missing fails in `check`. */
  from(head: QuestionHead, body: Body): Q;
  /** Whether the pack has the features of the held-out rows for it. */
  givesHeldOut(question: Q): boolean;
  /** A question as it is begun. */
  begin(id: string, subject: Subject): Q;
  /** @throws SieveError with the field that does not fit */
  check(question: Q, subject: Subject): void;
  /** Whether the key depends on the reference runs of the split, which may change later. */
  usesRuns(question: Q): boolean;
  /** Computes the key. @throws SieveError where the data have none */
  make(question: Q, material: Material): PreparedQuestion<R, K>;
  /** Whether each student sees something else, which follows from the secret of the exercise. */
  isPersonal(rules: R): boolean;
  /** What a student sees. */
  sheet(question: Known<Q>, rules: R, who: Respondent): SheetOf<Q['kind']>;
  /** File checks, which know no answer: in the browser before an attempt is spent, and on the server again. */
  read(answer: Answer, rules: R, who: Respondent): Read<C>;
  mark(question: Q, content: C, rules: R, key: K, marking: Marking<C>): Marked;
  /**
   * The known mistakes that explain what is wrong with an answer.
   *
   * @param fails ids of the checks by which it was marked that fail
   */
  slips(
    question: Q,
    content: C,
    rules: R,
    key: K,
    marking: Marking<C>,
    fails: readonly string[],
  ): readonly SlipIn[];
  /** The same of an answer that fails its checks; they know no answer. */
  unreadSlips(answer: Answer, rules: R): readonly SlipIn[];
  /** What is right in each field of one student, for staff; left out for a kind that is answered by files alone. */
  right?(rules: R, key: K, who: Respondent): Readonly<Record<string, Right>>;
  /** What a file says of each thing that is asked for; null for what is answered in fields. */
  given(content: C, rules: R): Given | null;
}

/** As much of a question as students may know. */
export type Known<Q extends AnyQuestion> = Pick<Q, 'id' | 'kind' | 'title' | 'text'> & {
  readonly marks: number;
};

/** The head of a sheet: named one by one, since a question given whole holds what students may not know. */
export const headOf = <Q extends AnyQuestion>({ id, kind, title, text, marks }: Known<Q>) => ({
  id,
  kind,
  title,
  text,
  marks,
});

export const questionKind = <Q extends AnyQuestion, R, K, C>(
  kind: QuestionKind<Q, R, K, C>,
): QuestionKind<Q, R, K, C> => kind;

const LARGEST_MARKS = 1000;

/** @throws SieveError `marks` */
export function checkMarks(marks: number): void {
  if (!(marks > 0 && marks <= LARGEST_MARKS))
    throw new SieveError('marks', 'All marks are a number above 0, up to 1,000.', { field: 'marks' });
}
