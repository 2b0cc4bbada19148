import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { isUUID } from 'class-validator';
import { Databases } from '../database/databases.js';
import { notFound, Problem } from '../errors/problem.js';
import { Identities } from './identities.js';
import {
  DECLARATION,
  isStaff,
  opens,
  type Caller,
  type Declaration,
  type Person,
  type RequestWithCaller,
  type Role,
  type Scope,
} from './access.js';

const WRITES = new Set(['POST', 'PUT', 'PATCH', 'DELETE']);

/** Decides for every request who calls, whether they may, and on which database connection their request runs. */
@Injectable()
export class AccessGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly identities: Identities,
    private readonly databases: Databases,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<RequestWithCaller>();
    const declaration = this.reflector.get<Declaration | undefined>(DECLARATION, context.getHandler());
    if (!declaration) throw notFound();
    const { audience, scope } = declaration;
    refuseForeignOrigin(request);
    if (audience === 'anyone') return true;
    const identity = await this.identities.identify(request);
    if (!identity)
      throw request.headers.authorization === undefined
        ? new Problem(401, 'signed-out', 'Sign in first.')
        : new Problem(401, 'token', 'The token is not valid: it was mistyped or revoked, or has expired.');
    request.person = identity.person;
    if (audience === 'administrator') {
      if (!identity.isAdministrator) throw notFound();
    } else if (audience !== 'person') {
      const caller = await this.callerIn(request, identity.person);
      if (!opens(audience, caller.role)) throw notFound();
      // A token does a student's work; where its person is staff it opens nothing.
      if (identity.scopes && isStaff(caller.role)) throw outOfScope('session');
      request.caller = caller;
      request.stillMay = () => this.stillMay(request, caller);
    }
    // Only somebody who may call the route learns that their token may not.
    if (identity.scopes && !identity.scopes.some((allowed) => allowed === scope)) throw outOfScope(scope);
    return true;
  }

  private async stillMay(request: RequestWithCaller, { person, role }: Caller): Promise<boolean> {
    const identity = await this.identities.identify(request);
    if (identity?.person.id !== person.id) return false;
    return (await this.membership(request, person))?.role === role;
  }

  private async membership(
    request: RequestWithCaller,
    person: Person,
  ): Promise<{ role: Role; at: Date } | undefined> {
    const identity = await this.databases.of('identity');
    // The database's clock is the one clock: that of a web process, or of a caller, decides nothing.
    const [membership]: { role: Role; at: Date }[] = await identity.query(
      'SELECT role, clock_timestamp() AS at FROM membership WHERE course_id = $1 AND person_id = $2',
      [request.params.course, person.id],
    );
    return membership;
  }

  private async callerIn(request: RequestWithCaller, person: Person): Promise<Caller> {
    const courseId = request.params.course;
    if (typeof courseId !== 'string' || !isUUID(courseId)) throw notFound();
    const membership = await this.membership(request, person);
    if (!membership) throw notFound();
    const { role, at } = membership;
    const db = await this.databases.of(isStaff(role) ? 'staff' : 'student');
    return { person, courseId, role, db, at, gone: goneSignal(request) };
  }
}

function goneSignal({ res }: RequestWithCaller): AbortSignal {
  const gone = new AbortController();
  res?.once('close', () => {
    if (!res.writableFinished) gone.abort();
  });
  return gone.signal;
}

const outOfScope = (scope: Scope) =>
  new Problem(
    403,
    'out-of-scope',
    scope === 'session'
      ? 'This is not done with a token. Sign in and do it there.'
      : `This token may not do that: it lacks the scope ${scope}.`,
  );

/** A write that a browser sends from another site carries that site's origin. */
function refuseForeignOrigin(request: RequestWithCaller): void {
  const { origin, host } = request.headers;
  if (!WRITES.has(request.method) || origin === undefined) return;
  if (!URL.canParse(origin) || new URL(origin).host !== host) {
    throw new Problem(403, 'foreign-origin', 'This request came from another site and was refused.');
  }
}
