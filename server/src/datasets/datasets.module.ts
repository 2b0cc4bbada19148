import { Module } from '@nestjs/common';
import { DataSetsController } from './datasets.controller.js';
import { DataSets } from './datasets.service.js';

@Module({ controllers: [DataSetsController], providers: [DataSets], exports: [DataSets] })
export class DataSetsModule {}
