import { Module } from '@nestjs/common';
import { CourseJobs } from './course-jobs.service.js';
import { JobsController } from './jobs.controller.js';

@Module({ controllers: [JobsController], providers: [CourseJobs] })
export class JobsModule {}
