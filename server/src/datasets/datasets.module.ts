import { Module } from '@nestjs/common';
import { DataSetsController } from './datasets.controller.js';
import { PreparationController } from './preparation.controller.js';
import { Preparations } from './preparations.service.js';
import { DataSets } from './datasets.service.js';

@Module({
  controllers: [DataSetsController, PreparationController],
  providers: [DataSets, Preparations],
  exports: [DataSets],
})
export class DataSetsModule {}
