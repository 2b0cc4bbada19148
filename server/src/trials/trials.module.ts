import { Module } from '@nestjs/common';
import { TrialColumnsController } from './trial-columns.controller.js';
import { TrialColumns } from './trial-columns.service.js';
import { TrialFilesController } from './trial-files.controller.js';
import { TrialLooks } from './trial-looks.service.js';
import { ReferencesController, TrialsController } from './trials.controller.js';
import { Trials } from './trials.service.js';

@Module({
  controllers: [TrialsController, TrialFilesController, TrialColumnsController, ReferencesController],
  providers: [Trials, TrialLooks, TrialColumns],
})
export class TrialsModule {}
