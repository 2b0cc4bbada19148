import type { Place } from '@modest-sieve/core/foundation';

// What the HTTP API takes and answers of courses, their jobs and their trail, and what is common to all answers.

export interface ProblemDetails {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly code: string;
  readonly place: Place;
  /** Identifier of the request, as the log has it. */
  readonly request: string | null;
}

export interface NewCourse {
  readonly name: string;
  readonly timeZone: string;
}

export interface DeleteCourse {
  /** As it is called, so that nobody deletes another one by mistake. */
  readonly name: string;
}

export interface JoinCourse {
  readonly code: string;
}

export type CourseRole = 'instructor' | 'assistant' | 'student';

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

export type JobState = 'waiting' | 'running' | 'trying again' | 'done' | 'failed' | 'cancelled';

/** Something that the program does for the course in the background. */
export interface JobInfo {
  readonly id: string;
  readonly kind: 'import' | 'prepare' | 'pack' | 'sheets' | 'check' | 'model' | 'regrade' | 'trial';
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

/** What a server-sent event `change` carries: of what kind the thing is that changed. */
export interface ChangeEvent {
  readonly about: 'people' | 'data' | 'exercises' | 'submissions' | 'jobs';
}
