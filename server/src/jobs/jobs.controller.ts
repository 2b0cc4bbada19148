import { Controller, Delete, Get, Param, ParseUUIDPipe } from '@nestjs/common';
import type { JobInfo } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { CourseJobs } from './course-jobs.service.js';

@Controller('courses/:course/jobs')
export class JobsController {
  constructor(private readonly jobs: CourseJobs) {}

  @Get()
  @Route('staff', { answers: 'JobInfo', list: true })
  list(@Calling() caller: Caller): Promise<JobInfo[]> {
    return this.jobs.list(caller);
  }

  @Delete(':job')
  @Route('instructor', { status: 204 })
  cancel(@Calling() caller: Caller, @Param('job', ParseUUIDPipe) job: string): Promise<void> {
    return this.jobs.cancel(caller, job);
  }
}
