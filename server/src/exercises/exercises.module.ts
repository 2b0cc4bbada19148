import { Briefs } from './briefs.service.js';
import { Module } from '@nestjs/common';
import { SubmissionsModule } from '../submissions/submissions.module.js';
import { Corrections } from './corrections.service.js';
import { ExercisesController } from './exercises.controller.js';
import { Exercises } from './exercises.service.js';
import { OwnSheets } from './own-sheets.service.js';
import { ReleasedExercises } from './released.service.js';
import { Tries } from './tries.service.js';

@Module({
  imports: [SubmissionsModule],
  controllers: [ExercisesController],
  providers: [Briefs, OwnSheets, Exercises, ReleasedExercises, Corrections, Tries],
  exports: [Exercises],
})
export class ExercisesModule {}
