import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { isUUID } from 'class-validator';
import { Databases } from '../database/databases.js';
import { notFound, Problem } from '../errors/problem.js';
import { Membership } from '../../courses/course.entity.js';
import { Sessions } from '../../people/sessions.service.js';
import { AUDIENCE, type Audience, type RequestWithCaller } from './access.js';

const WRITES = new Set(['POST', 'PUT', 'PATCH', 'DELETE']);

/** Decides for every request who calls, whether they may, and on which database connection their request runs. */
@Injectable()
export class AccessGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly sessions: Sessions,
    private readonly databases: Databases,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<RequestWithCaller>();
    const audience = this.reflector.get<Audience | undefined>(AUDIENCE, context.getHandler());
    if (!audience) throw notFound();
    refuseForeignOrigin(request);
    if (audience === 'anyone') return true;
    const person = await this.sessions.personOf(request);
    if (!person) throw new Problem(401, 'signed-out', 'Sign in first.');
    request.person = person;
    if (audience === 'person') return true;
    const courseId = request.params.course;
    if (typeof courseId !== 'string' || !isUUID(courseId)) throw notFound();
    const identity = await this.databases.of('identity');
    const membership = await identity.findOneBy(Membership, { courseId, personId: person.id });
    if (!membership || (audience !== 'member' && audience !== membership.role)) throw notFound();
    const db = await this.databases.of(membership.role === 'instructor' ? 'staff' : 'student');
    request.caller = { person, courseId, role: membership.role, db, at: request.receivedAt ?? new Date() };
    return true;
  }
}

/** A write that a browser sends from another site carries that site's origin. */
function refuseForeignOrigin(request: RequestWithCaller): void {
  const { origin, host } = request.headers;
  if (!WRITES.has(request.method) || origin === undefined) return;
  if (!URL.canParse(origin) || new URL(origin).host !== host) {
    throw new Problem(403, 'foreign-origin', 'This request came from another site and was refused.');
  }
}
