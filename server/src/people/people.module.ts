import { Global, Module } from '@nestjs/common';
import { CoursesModule } from '../courses/courses.module.js';
import { Accounts } from './accounts.service.js';
import { Links } from './links.service.js';
import { PeopleController } from './people.controller.js';
import { Sessions } from './sessions.service.js';
import { Tokens } from './tokens.service.js';
import { TokensController } from './tokens.controller.js';

@Global()
@Module({
  imports: [CoursesModule],
  controllers: [PeopleController, TokensController],
  providers: [Sessions, Accounts, Tokens, Links],
  exports: [Sessions, Links],
})
export class PeopleModule {}
