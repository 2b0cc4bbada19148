import { Module } from '@nestjs/common';
import { CoursesController } from './courses.controller.js';
import { Courses } from './courses.service.js';
import { MembersController } from './members.controller.js';
import { Members } from './members.service.js';

@Module({
  controllers: [CoursesController, MembersController],
  providers: [Courses, Members],
  exports: [Courses],
})
export class CoursesModule {}
