import { Global, Module } from '@nestjs/common';
import { Reserves } from './reserves.service.js';
import { SameRows } from './same-rows.service.js';

/** What was ever given to students, for splits, exercises and jobs alike. */
@Global()
@Module({ providers: [SameRows, Reserves], exports: [Reserves] })
export class ReserveModule {}
