import type {
  AnswerEvidence,
  ClassRows,
  Disclosed,
  MarkScheme,
  OptionChosen,
  Result,
  Sheet,
  SlipVerdict,
} from '@modest-sieve/core/assessment';

// What the HTTP API takes and answers of what was handed in, and marks.

export type ReceiptOutcome = 'waiting' | 'checked' | 'refused' | 'failed';

/** A submission as its student sees it. */
export interface ReceiptInfo {
  readonly id: string;
  /** The question that it answers. */
  readonly question: string;
  /** Counts the student's answers to the question. */
  readonly number: number;
  /** Null where nothing but fields was handed in. */
  readonly fileName: string | null;
  readonly sha256: string | null;
  /** What was typed or chosen. */
  readonly fields: Readonly<Record<string, string>>;
  readonly receivedAt: string;
  readonly outcome: ReceiptOutcome;
  readonly disclosed: Disclosed | null;
  readonly problem: string | null;
}

/** A submission as a list of a student's own has it: without checks, files and grids. */
export interface OwnReceipt {
  readonly id: string;
  readonly question: string;
  readonly number: number;
  readonly fileName: string | null;
  readonly sha256: string | null;
  readonly receivedAt: string;
  readonly outcome: ReceiptOutcome;
  /** How many of how many file checks hold; null while it waits. */
  readonly checks: { readonly hold: number; readonly of: number } | null;
  readonly marks: number | null;
  /** Scores that may be shown; null where none may. */
  readonly final: number | null;
  readonly feedback: { readonly score: number | null; readonly rounded: boolean } | null;
  readonly notBetter: boolean;
}

/** Receipts of a student, the latest first, so many at a time. */
export interface ReceiptPage {
  readonly receipts: readonly OwnReceipt[];
  /** To be given as `before` for the next page; null on the last. */
  readonly next: string | null;
}

/** A submission as staff see it. */
export interface SubmissionInfo extends ReceiptInfo {
  readonly person: { readonly id: string; readonly name: string };
  readonly result: Result | null;
  /** Percent of its marks that lateness costs. */
  readonly latePercent: number;
  /** After lateness or adjustment; null where it has none. */
  readonly marks: number | null;
  /** What decides which submission counts where the best does: of predictions what the feedback score would earn. */
  readonly standing: number | null;
  readonly adjustment: AdjustmentInfo | null;
  readonly comment: CommentInfo | null;
  /** What staff said of mistakes in it. */
  readonly verdicts: readonly SlipVerdictInfo[];
}

/** What is said of a mistake in an answer; `undone` takes back what was said of it. */
export interface SlipVerdictGiven {
  /** Id of the mistake, from the table of slips. */
  readonly slip: string;
  /** The figure that it is about; null for the whole answer. */
  readonly field: string | null;
  readonly verdict: 'dismissed' | 'named' | 'undone';
}

export interface SlipVerdictInfo extends SlipVerdict {
  /** Name of who said so. */
  readonly by: string;
  readonly at: string;
}

/** Marks for an answer in place of those that were found, or null to take them back, with the reason that its student reads. */
export interface MarkAdjustment {
  readonly marks: number | null;
  readonly reason: string;
}

/** What staff write about an answer, as Markdown; empty to take it back. Its student reads it once the exercise is returned. */
export interface CommentText {
  readonly text: string;
}

export interface CommentInfo extends CommentText {
  /** Name of who wrote it. */
  readonly by: string;
  readonly at: string;
}

export interface AdjustmentInfo {
  readonly marks: number;
  readonly reason: string;
  /** Name of who gave them. */
  readonly by: string;
  readonly at: string;
}

/** One submission as staff open it, with the question as its student sees it. */
export interface OpenedSubmission extends SubmissionInfo {
  /** Null where the exercise has no such question any more. */
  readonly sheet: Sheet | null;
  /** What staff wrote about all that its student handed in for the exercise. */
  readonly remark: CommentInfo | null;
}

/** What a student's answers to one question come to. */
export interface ClassAnswer {
  readonly question: string;
  readonly submissions: number;
  readonly waiting: number;
  readonly counting: string | null;
  /** Of predictions, on the final rows. */
  readonly score: number | null;
  readonly marks: number | null;
  /** The line by which the counting answer was marked; null where there is none. */
  readonly line: MarkScheme | null;
  readonly lastAt: string | null;
}

/** One line of the class view: a student and what counts of their answers. */
export interface ClassLine {
  readonly person: { readonly id: string; readonly name: string };
  /** Part of the course in which the student is taught; null for none. */
  readonly section: string | null;
  /** One for each question, in their order. */
  readonly answers: readonly ClassAnswer[];
  /** Of all questions; null where nothing counts. */
  readonly marks: number | null;
  /** A deadline of their own; null for that of the exercise. */
  readonly deadline: string | null;
}

/** Something that was found in answers. */
export interface FoundIn {
  /** Ids of submissions: the last of each student in which it was found. */
  readonly answers: readonly string[];
}

/** A known mistake, and in whose answers it is. */
export interface ClassSlip extends FoundIn {
  readonly question: string;
  readonly id: string;
  readonly title: string;
  /** What shows it in one of the answers. */
  readonly evidence: string;
  /** Whether staff named it in one of them, where it was not found. */
  readonly byHand: boolean;
}

/** A check that answers fail, and whose. */
export interface ClassCheck extends FoundIn {
  /** Stable name of the check. */
  readonly id: string;
  /** What it said of one of them. */
  readonly message: string;
}

/** How the class did on a question. */
export interface ClassQuestion {
  readonly question: string;
  /** Students who have marks for it. */
  readonly answered: number;
  /** Students who have marks for any question, of whom the figures are; what one of them did not answer earned nothing. */
  readonly students: number;
  /** Mean share of the marks, from 0 to 1; null where nobody has marks. */
  readonly share: number | null;
  /** Correlation with the marks for the other questions, with a 95 % interval; null of one question or of few students. */
  readonly discrimination: { readonly value: number; readonly low: number; readonly high: number } | null;
  /** The one that most students failed first; at most eight. */
  readonly failing: readonly ClassCheck[];
  /** Known mistakes that were found in its answers, and those of them that staff dismissed: false claims. */
  readonly found: { readonly slips: number; readonly dismissed: number };
}

export interface ClassView {
  /** In the order of the exercise. */
  readonly questions: readonly ClassQuestion[];
  /** The commonest first. */
  readonly slips: readonly ClassSlip[];
  readonly lines: readonly ClassLine[];
  readonly submissions: readonly ReceiptLine[];
}

/** What the answers of a class to one question have in common, of those that count. */
export interface ClassAnswersInfo {
  /** Of predictions, the rows and subgroups that are missed; null of other questions, and where nobody has a file that counts. */
  readonly rows: ClassRows | null;
  /** Students whose files were not read, since all together are too large. */
  readonly leftOut: number;
  /** How often each option was chosen; none where nothing is chosen. */
  readonly options: readonly OptionChosen[];
}

/** Where an answer goes wrong; null of one that is not a file of predictions that can be read. */
export interface AnswerEvidenceInfo {
  readonly evidence: AnswerEvidence | null;
}

/** A submission in a list, without its figures. */
export interface ReceiptLine {
  readonly id: string;
  readonly personId: string;
  readonly question: string;
  readonly number: number;
  readonly receivedAt: string;
  /** Whether it came after its student's deadline and the grace, so that marks are taken off. */
  readonly late: boolean;
  readonly outcome: ReceiptOutcome;
}

/** How worn the feedback rows of a question of predictions are. */
export interface WearInfo {
  /** Answers of the class that were checked. */
  readonly attempts: number;
  /** Scores on the feedback rows that students were shown. */
  readonly shown: number;
  readonly students: number;
  /** Mean by which students' best answers on the feedback rows do worse on the final rows; null where none has both. */
  readonly gap: number | null;
  /** What the choice of the best gives by chance, in 95 of 100 partings from `low` to `high`; null where it cannot be judged. */
  readonly expected: { readonly mean: number; readonly low: number; readonly high: number } | null;
  /** Share of the partings with a gap as large. */
  readonly asLarge: number | null;
  /** Why nothing is expected; null where something is. */
  readonly reason: string | null;
}
