import { createParamDecorator, type ExecutionContext } from '@nestjs/common';
import type { Request } from 'express';
import type { EntityManager } from 'typeorm';
import type { CourseRole, TokenScope } from '../../api/api.js';

/**
 * Who may call a route. `anyone` needs no session; `person` one; `administrator` that of somebody who administers the
 * server; the others a membership of the course that the
 * route's path names: any (`member`), as a student, as staff (instructor or assistant), or as an instructor.
 */
export type Audience = 'anyone' | 'person' | 'administrator' | 'member' | 'student' | 'staff' | 'instructor';

/**
 * What a personal access token must be allowed for a route; `session` is for routes that a token never opens.
 */
export type Scope = TokenScope | 'session';

export const TOKEN_SCOPES = ['read', 'hand-in'] as const satisfies readonly TokenScope[];

export interface Declaration {
  readonly audience: Audience;
  readonly scope: Scope;
}

export const DECLARATION = 'declaration';

export type Role = CourseRole;

export const isStaff = (role: Role): boolean => role !== 'student';

/** Whether a membership in a role opens a route. */
export function opens(audience: Audience, role: Role): boolean {
  switch (audience) {
    case 'anyone':
    case 'person':
    case 'administrator':
    case 'member':
      return true;
    case 'staff':
      return isStaff(role);
    case 'student':
    case 'instructor':
      return audience === role;
  }
}

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly email: string;
}

/** Who calls, and the database connection that their rights allow. */
export interface Caller {
  readonly person: Person;
  readonly courseId: string;
  readonly role: Role;
  /** A connection with the rights of the role. */
  readonly db: EntityManager;
  /** When the request started, before its body was read, by the database's clock. */
  readonly at: Date;
  /** Aborted when the connection is closed before the answer went out. */
  readonly gone: AbortSignal;
}

export interface RequestWithCaller extends Request {
  person?: Person;
  caller?: Caller;
  /** Whether who sent the request still has the session and the role that it was admitted with. */
  stillMay?: () => Promise<boolean>;
}

/** The calling member of a course. Only on routes for members. */
export const Calling = createParamDecorator((_: unknown, context: ExecutionContext): Caller => {
  const { caller } = context.switchToHttp().getRequest<RequestWithCaller>();
  if (!caller) throw new TypeError('this route is not declared for members of a course');
  return caller;
});

/** Asks whether the calling member still may; for streams, which outlast the request's admission. */
export const StillMay = createParamDecorator(
  (_: unknown, context: ExecutionContext): (() => Promise<boolean>) => {
    const { stillMay } = context.switchToHttp().getRequest<RequestWithCaller>();
    if (!stillMay) throw new TypeError('this route is not declared for members of a course');
    return stillMay;
  },
);

/** The signed-in person. Only on routes for persons. */
export const SignedIn = createParamDecorator((_: unknown, context: ExecutionContext): Person => {
  const { person } = context.switchToHttp().getRequest<RequestWithCaller>();
  if (!person) throw new TypeError('this route is not declared for signed-in persons');
  return person;
});
