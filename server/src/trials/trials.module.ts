import { Module } from '@nestjs/common';
import { FeatureSetsController } from './feature-sets.controller.js';
import { FeatureSets } from './feature-sets.service.js';
import { ReferencesController } from './references.controller.js';
import { TrialColumnsController } from './trial-columns.controller.js';
import { TrialColumns } from './trial-columns.service.js';
import { TrialFilesController } from './trial-files.controller.js';
import { TrialLooks } from './trial-looks.service.js';
import { TrialLuck } from './trial-luck.service.js';
import { TrialsController } from './trials.controller.js';
import { Trials } from './trials.service.js';

@Module({
  controllers: [
    TrialsController,
    TrialFilesController,
    TrialColumnsController,
    ReferencesController,
    FeatureSetsController,
  ],
  providers: [Trials, TrialLooks, TrialLuck, TrialColumns, FeatureSets],
})
export class TrialsModule {}
