import { Controller, Get, Req } from '@nestjs/common';
import type { Request } from 'express';
import type { SessionInfo } from '../api/api.js';
import { Sessions } from '../people/sessions.service.js';
import { Route } from '../platform/access/route.js';
import { Courses } from './courses.service.js';

@Controller('session')
export class SessionController {
  constructor(
    private readonly sessions: Sessions,
    private readonly courses: Courses,
  ) {}

  /** Who is signed in, with their courses. */
  @Get()
  @Route('anyone', { answers: 'SessionInfo' })
  async session(@Req() request: Request): Promise<SessionInfo> {
    const identity = await this.sessions.identify(request);
    if (!identity) return { person: null, courses: [], administers: false, makesCourses: false };
    const { person, isAdministrator } = identity;
    return {
      person,
      courses: await this.courses.of(person),
      administers: isAdministrator,
      makesCourses: await this.courses.mayMake(person),
    };
  }
}
