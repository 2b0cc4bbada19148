import type { Check } from '@modest-sieve/core/foundation';
import type { Roles } from '@modest-sieve/core/data';
import type {
  FeedbackPolicy,
  SlipPolicy,
  MarkScheme,
  ModelRules,
  PackFile,
  Question,
  Rules,
  Sheet,
} from '@modest-sieve/core/assessment';

// What the HTTP API takes and answers of exercises.

/** An exercise that uses a split of a data set. */
export interface ExerciseUse {
  readonly id: string;
  readonly title: string;
  readonly splitId: string;
  readonly state: ExerciseState;
}

export type ExerciseState = 'draft' | 'packing' | 'released' | 'returned';

/** When and how often answers are taken, and what is disclosed of them while the exercise is open. */
export interface ExercisePolicy {
  /** For each question, in all. */
  readonly attempts: number;
  /** For each question on one day of the course's time zone; null for no such limit. */
  readonly perDay: number | null;
  readonly counts: 'best' | 'last';
  /** From when students see it, ISO 8601 with an offset; null for from its release on. */
  readonly opensAt: string | null;
  /** ISO 8601 with an offset. */
  readonly deadline: string;
  readonly graceMinutes: number;
  /** Percent of the marks that each day begun after the deadline costs. */
  readonly latePercent: number;
  /** Days for which late answers are taken. */
  readonly lateDays: number;
  readonly feedback: FeedbackPolicy;
  /** When students read of known mistakes; after the return where left out. */
  readonly slips?: SlipPolicy;
}

/** A release, with what the instructor says to what the audit of the pack is not sure of; empty for nothing. */
export interface ReleaseRequest {
  readonly reason?: string;
}

export interface ExerciseSettings extends ExercisePolicy {
  readonly splitId: string;
  /** Folds over the training rows that go into the pack; null for none. */
  readonly foldSetId: string | null;
  /** Whether the pack has random identifiers in place of the rows' own. */
  readonly reissued: boolean;
  readonly title: string;
  /** Markdown. */
  readonly brief: string;
  readonly questions: readonly Question[];
}

/** An exercise as a file: what can be asked again of another split. */
export interface ExerciseFile extends Omit<
  ExerciseSettings,
  'splitId' | 'foldSetId' | 'reissued' | 'opensAt' | 'deadline'
> {
  readonly version: 1;
}

/** What may still change once an exercise is released, with the note that students read of it. */
export interface Amendment extends Omit<ExercisePolicy, 'counts' | 'feedback' | 'opensAt'> {
  readonly title: string;
  readonly brief: string;
  readonly notice: string;
}

/** Corrected questions of an exercise that students have. */
export interface Correction {
  readonly questions: readonly Question[];
}

/** What is decided once it is known what a correction changes. */
export interface CorrectionApplied {
  /** What students read of it. */
  readonly notice: string;
  /** Submissions whose marks were given by hand, and are to be those of the correction. */
  readonly takenBack: readonly string[];
}

export type CorrectionState = 'waiting' | 'ready' | 'failed';

/** What a correction would change. Nothing is applied yet. */
export interface CorrectionInfo {
  /** Another one for each correction that was begun. */
  readonly revision: number;
  readonly state: CorrectionState;
  readonly problem: { readonly code: string; readonly message: string } | null;
  readonly corrected: readonly Question[];
  readonly questions: readonly CorrectedQuestion[];
  /** Students whose marks change, once it is ready. */
  readonly students: readonly MarkChange[];
  /** Students with marks that stay as they are. */
  readonly unchanged: number;
  /** Answers that keep the marks they were given by hand, although the correction finds others than before. */
  readonly adjusted: readonly AdjustedAnswer[];
}

export interface AdjustedAnswer {
  readonly submission: string;
  readonly person: { readonly id: string; readonly name: string };
  readonly question: string;
  /** Marks given by hand. */
  readonly given: number | null;
  /** Marks that were found, and that the correction finds. */
  readonly found: Change<number | null>;
}

export interface Change<T> {
  readonly before: T;
  readonly after: T;
}

export interface CorrectedQuestion {
  readonly question: string;
  readonly marks: Change<number>;
  /** The line by which a score is marked; null for questions without one. */
  readonly line: Change<MarkScheme | null>;
  /** How the key came about; after is empty until it is computed. */
  readonly key: Change<readonly string[]>;
}

/** The marks of a student, in all and of the questions where they change; null where nothing counts. */
export interface MarkChange {
  readonly person: { readonly id: string; readonly name: string };
  readonly marks: Change<number | null>;
  readonly answers: readonly { readonly question: string; readonly marks: Change<number | null> }[];
}

/** A student's own deadline; null for that of the exercise. */
export interface OwnDeadline {
  readonly deadline: string | null;
}

export interface ExerciseSummary {
  readonly id: string;
  readonly title: string;
  readonly state: ExerciseState;
  readonly opensAt: string | null;
  /** Of the student who asks, where they have one of their own. */
  readonly deadline: string;
  readonly marks: number;
  /** Submissions of the class, or of the student who asks. */
  readonly submissions: number;
  /** Members who have handed in; for students 0 or 1. */
  readonly people: number;
  /** Questions, and of the student who asks those that were answered. */
  readonly questions: number;
  readonly answered: number;
  /** Marks of the student who asks, once returned. */
  readonly mark: number | null;
  /** Whether keys were computed from reference runs that are others now; false for students. */
  readonly stale: boolean;
}

/** A question of a released exercise, as the caller may see it. */
/** What a page says of a file to hand in. The rules that it is checked by are asked for when one is chosen. */
export interface FileAbout {
  /** Rows that it must have; null where that is not said. */
  readonly rows: number | null;
  /** Size of the largest that is taken, in bytes. */
  readonly bytes: number;
  /** Of a model, the forms that are taken; null for other files. */
  readonly takes: ModelRules['takes'] | null;
  /** What it is marked by; null where that is no score. */
  readonly metric: string | null;
  readonly scheme: MarkScheme | null;
}

/** What a file is checked by before it is sent, and again when it has come. */
export interface FileRules {
  readonly question: string;
  readonly rules: Rules;
}

export interface QuestionSheet extends Sheet {
  /** Of the file that is handed in; null where none is. */
  readonly fileAbout: FileAbout | null;
  /** What earns the marks: the score on the final rows, the student's own work, or a key that is right or wrong. */
  readonly markedBy: 'score' | 'work' | 'key';
  /** The file of the pack that shows what is handed in; null for none. */
  readonly example: string | null;
  /** Attempts that the student who asks has used, in all and today. */
  readonly used: number;
  readonly usedToday: number;
  /** Whether an earlier return showed the student its right answers, so that it is closed. */
  readonly keyShown: boolean;
}

export interface ExerciseDetail extends ExercisePolicy {
  readonly id: string;
  readonly splitId: string;
  readonly foldSetId: string | null;
  readonly reissued: boolean;
  readonly title: string;
  readonly brief: string;
  /** What students read of changes after the release. */
  readonly notice: string;
  readonly marks: number;
  readonly state: ExerciseState;
  /** Of the questions, for instructors; null for others. */
  readonly composed: readonly Question[] | null;
  /** Of the questions once released. */
  readonly sheets: readonly QuestionSheet[];
  readonly roles: Roles | null;
  readonly dataSet: { readonly address: string; readonly name: string } | null;
  readonly pack: { readonly bytes: number; readonly files: readonly PackFile[] } | null;
  /** What the audit of the pack found; for staff. */
  readonly audit: readonly Check[] | null;
  /** How each question's key came about; for staff. */
  readonly keys: readonly KeyAbout[] | null;
  readonly problem: { readonly code: string; readonly message: string } | null;
  /** Whether keys were computed from reference runs that are others now; false for students. */
  readonly stale: boolean;
  /** Of a correction that is neither applied nor dropped, for instructors; null for none. */
  readonly correction: CorrectionState | null;
  /** Students with a deadline of their own; for staff. */
  readonly extensions: readonly { readonly personId: string; readonly deadline: string }[] | null;
  /** What staff wrote about all that the student who asks handed in, as Markdown, once it is returned; null for nothing. */
  readonly remark: string | null;
  /** The server's clock when it answered. */
  readonly now: string;
}

export interface KeyAbout {
  readonly question: string;
  readonly about: readonly string[];
}
