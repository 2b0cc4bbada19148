import { Module } from '@nestjs/common';
import { CoursesController } from './courses.controller.js';
import { Courses } from './courses.service.js';
import { InvitationsController } from './invitations.controller.js';
import { Invitations } from './invitations.service.js';
import { SessionController } from './session.controller.js';
import { MembersController } from './members.controller.js';
import { Members } from './members.service.js';

@Module({
  controllers: [SessionController, CoursesController, MembersController, InvitationsController],
  providers: [Courses, Members, Invitations],
  exports: [Courses],
})
export class CoursesModule {}
