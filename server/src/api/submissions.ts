import type { Disclosed, Result, Sheet, SlipVerdict } from '@modest-sieve/core/assessment';

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

/** Which answers are to be checked again, of those whose check did not finish. */
export interface ChecksAsked {
  /** One answer; null for all of the exercise. */
  readonly submission: string | null;
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
