import { Module } from '@nestjs/common';
import { DataSetsModule } from '../datasets/datasets.module.js';
import { FoldsController } from './folds.controller.js';
import { FoldSets } from './folds.service.js';
import { SplitsController } from './splits.controller.js';
import { Splits } from './splits.service.js';

@Module({
  imports: [DataSetsModule],
  controllers: [SplitsController, FoldsController],
  providers: [Splits, FoldSets],
})
export class SplitsModule {}
