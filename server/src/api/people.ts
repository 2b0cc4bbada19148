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

export interface ChangePassword extends SetPassword {
  readonly old: string;
}

/** Something that happened to an account. */
export interface AccountEventInfo {
  readonly at: string;
  readonly text: string;
}

export interface NewInvitation {
  readonly email: string;
  readonly name: string;
  readonly role: CourseRole;
}

/** An invitation that nobody has accepted yet, for instructors. */
export interface InvitationInfo extends NewInvitation {
  readonly id: string;
  readonly createdAt: string;
  readonly expiresAt: string;
}

/** An invitation as its link shows it. */
export interface InvitationShown extends NewInvitation {
  readonly course: string;
  readonly courseId: string;
  readonly invitedBy: string;
}

/** An invitation to the address of the account that is signed in. */
export interface OwnInvitation {
  readonly id: string;
  readonly course: string;
  readonly role: CourseRole;
  readonly invitedBy: string;
}

/** Whom a one-time link is for. */
export interface LinkInfo {
  readonly name: string;
  readonly email: string;
}

/** A link that was made, as a path under the server's address. Shown once. */
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

/** Shown once. */
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
  /** Whether the person administers the server, and may make courses. */
  readonly administers: boolean;
  readonly makesCourses: boolean;
}

/** By the join code, the link of an invitation, an invitation to the account's address, or by making the course. */
export type JoinedBy = 'code' | 'invitation' | 'address' | 'maker';

export interface Member {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: CourseRole;
  /** Part of the course in which a student is taught; null for none. */
  readonly section: string | null;
  readonly joinedAt: string;
  readonly joinedBy: JoinedBy;
  /** Whether the instructor who asks may make a link for a new password. */
  readonly mayReset: boolean;
}

/** An assistant becomes a student at once; a student becomes an assistant by accepting an invitation. */
export interface ChangeRole {
  readonly role: 'student';
}

/** One line of a roster, and what importing it would do. */
export interface RosterLine {
  readonly line: number;
  readonly name: string;
  readonly email: string;
  readonly role: 'assistant' | 'student';
  /** It says nothing about accounts. */
  readonly what: 'invited' | 'invited again' | 'already here' | 'refused';
  /** Why the line is refused. */
  readonly problem: string | null;
}

export interface RosterPreview {
  readonly lines: readonly RosterLine[];
}

/** What an import did, with the link of each invitation. */
export interface RosterResult {
  readonly invited: number;
  readonly links: readonly MadeLink[];
}
