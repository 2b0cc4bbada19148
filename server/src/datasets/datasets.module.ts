import { Module } from '@nestjs/common';
import { DataSetsController } from './datasets.controller.js';
import { PreparationController } from './preparation.controller.js';
import { Preparations } from './preparations.service.js';
import { DataSets } from './datasets.service.js';
import { HousekeepingController } from './housekeeping.controller.js';
import { Housekeeping } from './housekeeping.service.js';
import { LooksController } from './looks.controller.js';
import { Looks } from './looks.service.js';

@Module({
  controllers: [DataSetsController, HousekeepingController, LooksController, PreparationController],
  providers: [DataSets, Housekeeping, Looks, Preparations],
  exports: [DataSets],
})
export class DataSetsModule {}
