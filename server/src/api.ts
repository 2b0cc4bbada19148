import type {
  Check,
  ColumnProfile,
  CorrelationMatrix,
  Disclosed,
  FeedbackPolicy,
  Findings,
  MarkScheme,
  PackFile,
  Pair,
  Place,
  PredictionRules,
  PreparePreview,
  Result,
  Roles,
  FoldConsequences,
  FoldSentence,
  SplitConsequences,
  SplitPlan,
  SplitRecord,
  Step,
  StepEffect,
  TargetAtValue,
} from '@modest-sieve/core';

/** What the HTTP API takes and answers. The OpenAPI document's schemas are generated from these types. */

export interface ProblemDetails {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly code: string;
  readonly place: Place;
  /** Identifier of the request, as the log has it. */
  readonly request: string | null;
}

export interface SignIn {
  readonly email: string;
  readonly password: string;
}

export interface SignUp extends SignIn {
  readonly name: string;
}

export interface SetPassword {
  readonly password: string;
}

/** Whom a one-time link is for. */
export interface LinkInfo {
  readonly name: string;
  readonly email: string;
}

/** A link that was made, as a path under the server's address. Told once. */
export interface MadeLink {
  readonly name: string;
  readonly email: string;
  readonly path: string;
}

/** What a token may do: read what its person may read, hand in files. */
export type TokenScope = 'read' | 'hand-in';

export interface NewToken {
  readonly name: string;
  readonly scopes: readonly TokenScope[];
  /** Days until it expires. */
  readonly days: number;
}

/** Told once. */
export interface MadeToken {
  readonly id: string;
  readonly token: string;
}

export interface TokenInfo {
  readonly id: string;
  readonly name: string;
  readonly scopes: readonly TokenScope[];
  readonly createdAt: string;
  readonly expiresAt: string;
  readonly lastUsedAt: string | null;
}

export interface NewCourse {
  readonly name: string;
  readonly timeZone: string;
}

export interface JoinCourse {
  readonly code: string;
}

export type CourseRole = 'instructor' | 'assistant' | 'student';

export interface SessionInfo {
  readonly person: { readonly id: string; readonly name: string; readonly email: string } | null;
  readonly courses: readonly CourseSummary[];
}

export interface CourseSummary {
  readonly id: string;
  readonly name: string;
  readonly timeZone: string;
  readonly role: CourseRole;
}

export interface CourseDetail extends CourseSummary {
  /** With which students join, and until when; null for all but instructors. */
  readonly joinCode: string | null;
  readonly joinCodeExpiresAt: string | null;
  /** Imports, packs and checks under way; of a student's own submissions only, for students. */
  readonly running: number;
}

export interface Member {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: CourseRole;
  readonly joinedAt: string;
  /** Whether the person has set a password yet. */
  readonly hasPassword: boolean;
}

export interface ChangeRole {
  readonly role: 'assistant' | 'student';
}

/** One line of a roster, and what importing it would do. */
export interface RosterLine {
  readonly line: number;
  readonly name: string;
  readonly email: string;
  readonly role: 'assistant' | 'student';
  readonly what: 'new account' | 'joins' | 'already here' | 'refused';
  /** Why the line is refused. */
  readonly problem: string | null;
}

export interface RosterPreview {
  readonly lines: readonly RosterLine[];
}

/** What an import did, with a link for everybody who got an account by it. */
export interface RosterResult {
  readonly joined: number;
  readonly links: readonly MadeLink[];
}

export type JobState = 'waiting' | 'running' | 'trying again' | 'done' | 'failed' | 'cancelled';

/** Something that the program does for the course in the background. */
export interface JobInfo {
  readonly id: string;
  readonly kind: 'import' | 'prepare' | 'pack' | 'check';
  /** What it is about, by the name that people know it by. */
  readonly subject: string;
  readonly state: JobState;
  readonly createdAt: string;
  readonly startedAt: string | null;
  readonly endedAt: string | null;
  readonly tries: number;
  readonly progress: { readonly what: string; readonly done: number; readonly total: number } | null;
}

/** Something that a member of the course did. */
export interface AuditEntry {
  readonly id: string;
  readonly at: string;
  readonly person: string;
  /** The action in words, which the subject follows. */
  readonly text: string;
  readonly subject: string;
  readonly detail: Readonly<Record<string, string | number | null>>;
}

export interface AuditPage {
  readonly events: readonly AuditEntry[];
  /** To be given as `before` for the next page; null on the last. */
  readonly next: string | null;
}

export interface Created {
  readonly id: string;
}

export interface DataSetSummary {
  readonly id: string;
  readonly name: string;
  readonly rows: number;
  readonly columns: number;
  readonly target: string | null;
  readonly splits: number;
  readonly createdAt: string;
}

/** A file on its way into the course, or one that could not be read. */
export interface ImportInfo {
  readonly id: string;
  readonly fileName: string;
  /** The data set that it is a new raw table of; null for a new one. */
  readonly intoId: string | null;
  readonly state: 'waiting' | 'done' | 'failed';
  /** With what could be meant where one of several tables of the file has to be chosen. */
  readonly problem: {
    readonly code: string;
    readonly message: string;
    readonly choices?: readonly string[];
  } | null;
}

/** Which of several tables of a file is meant. */
export interface SheetChoice {
  readonly sheet: string;
}

export interface DataSetList {
  readonly dataSets: readonly DataSetSummary[];
  readonly imports: readonly ImportInfo[];
}

export interface DataSetDetail {
  readonly id: string;
  readonly name: string;
  /** What columns mean, by their names. */
  readonly descriptions: Readonly<Record<string, string>>;
  readonly version: number;
  readonly rows: number;
  /** The steps that led to this version from the raw table, and what each did; none for a raw table itself. */
  readonly steps: readonly Step[];
  readonly effects: readonly StepEffect[];
  /** The newest raw table, which steps are done on. */
  readonly raw: { readonly number: number; readonly rows: number };
  readonly versions: readonly VersionInfo[];
  /** A version that is being made, or could not be. */
  readonly preparation: PreparationInfo | null;
  readonly profile: readonly ColumnProfile[];
  /** Null until the instructor has marked the columns. */
  readonly roles: Roles | null;
  readonly splits: readonly SplitInfo[];
  readonly foldSets: readonly FoldSetInfo[];
  readonly exercises: readonly ExerciseUse[];
}

/** A version of a data set: a raw table as it came, or what steps made of one. */
export interface VersionInfo {
  readonly number: number;
  readonly rows: number;
  readonly columns: readonly string[];
  /** Number of the raw version that it was made from; null for a raw table. */
  readonly from: number | null;
  readonly steps: readonly Step[];
  readonly createdAt: string;
}

export interface PreparationInfo {
  readonly id: string;
  readonly state: 'waiting' | 'failed';
  readonly problem: { readonly code: string; readonly message: string } | null;
  readonly steps: readonly Step[];
}

/** What a look at a table finds. */
export type TableFindings = Findings;

/** The target at the values of one column, or at the tenths of one of many numbers. */
export interface TargetByValue {
  /** Of a column of many values those with the most rows; none of free texts. */
  readonly values: readonly TargetAtValue[];
  /** Values that are left out. */
  readonly more: number;
}

/** Two columns looked at together. */
export type ColumnPair = Pair;

/** Of the columns of numbers, those that go together next to one another. */
export type Correlations = CorrelationMatrix;

/** Steps to be tried on the raw table; of the chosen one examples are told. */
export interface PrepareRequest {
  readonly steps: readonly Step[];
  readonly chosen: number | null;
}

export type PrepareAnswer = PreparePreview;

export interface KeepSteps {
  readonly steps: readonly Step[];
}

/** An exercise that uses a split of a data set. */
export interface ExerciseUse {
  readonly id: string;
  readonly title: string;
  readonly splitId: string;
  readonly state: ExerciseState;
}

export interface SplitInfo {
  readonly id: string;
  readonly method: string;
  readonly plan: SplitPlan;
  readonly consequences: SplitConsequences;
  readonly createdAt: string;
}

/** How a plan's figures vary over twenty draws. */
export type SplitDraws = SplitRecord;

/** Folds that are to be made: of the training rows of a split, or of all rows that take part. */
export interface FoldRequest {
  readonly plan: FoldSentence;
  readonly splitId: string | null;
}

export type FoldAnswer = FoldConsequences;

/** Folds that are kept. */
export interface FoldSetInfo {
  readonly id: string;
  readonly method: string;
  readonly plan: FoldSentence;
  readonly splitId: string | null;
  readonly folds: number;
  readonly repeats: number;
  readonly rows: number;
  readonly createdAt: string;
}

/** What columns mean, in words, by their names. */
export interface ColumnDescriptions {
  readonly descriptions: Readonly<Record<string, string>>;
}

export interface RowPage {
  readonly columns: readonly string[];
  readonly offset: number;
  /** Rows of the version, or of those for which the condition holds. */
  readonly total: number;
  /** Number of each row in the version, from 1. */
  readonly numbers: readonly number[];
  readonly rows: readonly (readonly (string | null)[])[];
}

export interface TargetSuggestion {
  readonly task: Roles['task'];
  readonly labels: readonly string[];
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
