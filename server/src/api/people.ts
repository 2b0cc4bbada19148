import type { CourseRole, CourseSummary } from './courses.js';

// What the HTTP API takes and answers of accounts, tokens, and who is in a course.

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

export interface SessionInfo {
  readonly person: { readonly id: string; readonly name: string; readonly email: string } | null;
  readonly courses: readonly CourseSummary[];
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
