import type { Check, FeedbackPolicy, MarkScheme, PackFile, PredictionRules, Roles } from '@modest-sieve/core';

// What the HTTP API takes and answers of exercises.

/** An exercise that uses a split of a data set. */
export interface ExerciseUse {
  readonly id: string;
  readonly title: string;
  readonly splitId: string;
  readonly state: ExerciseState;
}

export type ExerciseState = 'draft' | 'packing' | 'released' | 'returned';

export interface ExerciseSettings {
  readonly splitId: string;
  /** Folds over the training rows that go into the pack; null for none. */
  readonly foldSetId: string | null;
  readonly title: string;
  /** Markdown. */
  readonly brief: string;
  readonly metric: string;
  readonly scheme: MarkScheme;
  readonly attempts: number;
  readonly counts: 'best' | 'last';
  /** ISO 8601 with an offset. */
  readonly deadline: string;
  readonly feedback: FeedbackPolicy;
}

export interface ExerciseSummary {
  readonly id: string;
  readonly title: string;
  readonly state: ExerciseState;
  readonly deadline: string;
  readonly marks: number;
  /** Submissions of the class, or of the student who asks. */
  readonly submissions: number;
  /** Members who have handed in; for students 0 or 1. */
  readonly people: number;
  /** Marks of the student who asks, once returned. */
  readonly mark: number | null;
}

export interface ExerciseDetail extends ExerciseSettings {
  readonly id: string;
  readonly state: ExerciseState;
  readonly task: Roles['task'];
  readonly dataSet: { readonly id: string; readonly name: string } | null;
  readonly target: string;
  readonly pack: { readonly bytes: number; readonly files: readonly PackFile[] } | null;
  /** What the audit of the pack found; for instructors. */
  readonly audit: readonly Check[] | null;
  readonly problem: { readonly code: string; readonly message: string } | null;
  readonly rules: PredictionRules | null;
  /** Attempts that the student who asks has used. */
  readonly used: number;
  /** The server's clock when it answered. */
  readonly now: string;
}
