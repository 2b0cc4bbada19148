import { Module } from '@nestjs/common';
import { DataSetsModule } from '../datasets/datasets.module.js';
import { SplitsController } from './splits.controller.js';
import { Splits } from './splits.service.js';

@Module({ imports: [DataSetsModule], controllers: [SplitsController], providers: [Splits] })
export class SplitsModule {}
