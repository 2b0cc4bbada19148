import { createParamDecorator, SetMetadata, type ExecutionContext } from '@nestjs/common';
import type { Request } from 'express';
import type { EntityManager } from 'typeorm';

/**
 * Who may call a route. `anyone` needs no session; `person` a session; `member`, `instructor` and `student` a
 * membership of the course that the route's path names.
 */
export type Audience = 'anyone' | 'person' | 'member' | 'instructor' | 'student';

export const AUDIENCE = 'audience';

/** Declares who may call a route. A route without a declaration answers nobody. */
export const For = (audience: Audience) => SetMetadata(AUDIENCE, audience);

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly email: string;
}

/** Who calls, and the database connection that their rights allow. */
export interface Caller {
  readonly person: Person;
  readonly courseId: string;
  readonly role: 'instructor' | 'student';
  /** A connection with the rights of the role. */
  readonly db: EntityManager;
  /** When the request started, by the server's clock. */
  readonly at: Date;
}

export interface RequestWithCaller extends Request {
  receivedAt?: Date;
  person?: Person;
  caller?: Caller;
}

/** The calling member of a course. Only on routes for members. */
export const Calling = createParamDecorator((_: unknown, context: ExecutionContext): Caller => {
  const { caller } = context.switchToHttp().getRequest<RequestWithCaller>();
  if (!caller) throw new TypeError('this route is not declared for members of a course');
  return caller;
});

/** The signed-in person. Only on routes for persons. */
export const SignedIn = createParamDecorator((_: unknown, context: ExecutionContext): Person => {
  const { person } = context.switchToHttp().getRequest<RequestWithCaller>();
  if (!person) throw new TypeError('this route is not declared for signed-in persons');
  return person;
});
