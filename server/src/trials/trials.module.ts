import { Module } from '@nestjs/common';
import { TrialFilesController } from './trial-files.controller.js';
import { TrialLooks } from './trial-looks.service.js';
import { ReferencesController, TrialsController } from './trials.controller.js';
import { Trials } from './trials.service.js';

@Module({
  controllers: [TrialsController, TrialFilesController, ReferencesController],
  providers: [Trials, TrialLooks],
})
export class TrialsModule {}
