import type { Disclosed, Result } from '@modest-sieve/core';
import type { ExerciseState } from './exercises.js';

// What the HTTP API takes and answers of what was handed in, and marks.

export type ReceiptOutcome = 'waiting' | 'checked' | 'refused' | 'failed';

/** A submission as its student sees it. */
export interface ReceiptInfo {
  readonly id: string;
  readonly number: number;
  readonly fileName: string;
  readonly sha256: string;
  readonly receivedAt: string;
  readonly outcome: ReceiptOutcome;
  readonly disclosed: Disclosed | null;
  readonly problem: string | null;
}

/** A submission as staff see it. */
export interface SubmissionInfo extends ReceiptInfo {
  readonly person: { readonly id: string; readonly name: string };
  readonly result: Result | null;
}

/** One line of the class view: a student and the submission that counts. */
export interface ClassLine {
  readonly person: { readonly id: string; readonly name: string };
  readonly submissions: number;
  readonly waiting: number;
  readonly counting: string | null;
  readonly score: number | null;
  readonly marks: number | null;
  readonly lastAt: string | null;
}

export interface ClassView {
  readonly lines: readonly ClassLine[];
  readonly submissions: readonly ReceiptLine[];
}

/** A submission in a list, without its figures. */
export interface ReceiptLine {
  readonly id: string;
  readonly personId: string;
  readonly number: number;
  readonly receivedAt: string;
  readonly outcome: ReceiptOutcome;
}

export interface Gradebook {
  readonly exercises: readonly {
    readonly id: string;
    readonly title: string;
    readonly marks: number;
    readonly state: ExerciseState;
  }[];
  readonly students: readonly {
    readonly id: string;
    readonly name: string;
    readonly email: string;
    /** One for each exercise; null where nothing counts. */
    readonly marks: readonly (number | null)[];
  }[];
}
