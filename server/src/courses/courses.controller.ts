import { Body, Controller, Delete, Get, Post, Sse, type MessageEvent } from '@nestjs/common';
import { IsString, IsTimeZone, MaxLength, MinLength } from 'class-validator';
import type { Observable } from 'rxjs';
import type { CourseDetail, Created, DeleteCourse, JoinCourse, NewCourse } from '../api/api.js';
import { Calling, SignedIn, StillMay, type Caller, type Person } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Events } from '../platform/events/events.service.js';
import { Courses } from './courses.service.js';

export class NewCourseBody implements NewCourse {
  @IsString() @MinLength(1, { message: 'Give the course a name.' }) @MaxLength(120) name: string;
  @IsTimeZone({ message: 'This is no time zone, such as Europe/London.' }) timeZone: string;
}

export class JoinCourseBody implements JoinCourse {
  @IsString() @MinLength(1, { message: 'Give the code.' }) @MaxLength(40) code: string;
}

export class DeleteCourseBody implements DeleteCourse {
  @IsString({ message: 'Give the name of the course.' }) @MaxLength(120) name: string;
}

@Controller('courses')
export class CoursesController {
  constructor(
    private readonly courses: Courses,
    private readonly events: Events,
  ) {}

  @Post()
  @Route('person', { takes: 'NewCourse', answers: 'Created', status: 201 })
  make(@SignedIn() person: Person, @Body() body: NewCourseBody): Promise<Created> {
    return this.courses.make(person, body.name, body.timeZone);
  }

  @Post('join')
  @Route('person', { takes: 'JoinCourse', answers: 'Created' })
  join(@SignedIn() person: Person, @Body() body: JoinCourseBody): Promise<Created> {
    return this.courses.join(person, body.code);
  }

  @Get(':course')
  @Route('member', { answers: 'CourseDetail', scope: 'read' })
  detail(@Calling() caller: Caller): Promise<CourseDetail> {
    return this.courses.detail(caller);
  }

  /** A new code in place of the old one, which no longer works. */
  @Post(':course/join-code')
  @Route('instructor', { status: 204 })
  renewCode(@Calling() caller: Caller): Promise<void> {
    return this.courses.renewCode(caller);
  }

  /** Deletes the course with all that is in it. The body names it, so that nobody deletes another one by mistake. */
  @Delete(':course')
  @Route('instructor', { takes: 'DeleteCourse', status: 204 })
  remove(@Calling() caller: Caller, @Body() { name }: DeleteCourseBody): Promise<void> {
    return this.courses.remove(caller, name);
  }

  /** Server-sent events: one each time something in the course changes that the caller may see. */
  @Sse(':course/events')
  @Route('member', { scope: 'read' })
  changes(@Calling() caller: Caller, @StillMay() stillMay: () => Promise<boolean>): Observable<MessageEvent> {
    return this.events.of(caller, stillMay);
  }
}
