import { Global, Module } from '@nestjs/common';
import { CoursesModule } from '../courses/courses.module.js';
import { PeopleController } from './people.controller.js';
import { Sessions } from './sessions.service.js';

@Global()
@Module({
  imports: [CoursesModule],
  controllers: [PeopleController],
  providers: [Sessions],
  exports: [Sessions],
})
export class PeopleModule {}
