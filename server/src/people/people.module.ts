import { Global, Module } from '@nestjs/common';
import { Identities } from '../platform/access/identities.js';
import { Accounts } from './accounts.service.js';
import { Links } from './links.service.js';
import { PeopleController } from './people.controller.js';
import { Sessions } from './sessions.service.js';
import { Tokens } from './tokens.service.js';
import { TokensController } from './tokens.controller.js';

@Global()
@Module({
  controllers: [PeopleController, TokensController],
  providers: [Sessions, { provide: Identities, useExisting: Sessions }, Accounts, Tokens, Links],
  exports: [Sessions, Identities, Links],
})
export class PeopleModule {}
