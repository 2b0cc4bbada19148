import { Module } from '@nestjs/common';
import { ExercisesModule } from '../exercises/exercises.module.js';
import { SubmissionsModule } from '../submissions/submissions.module.js';
import { Corrections } from './corrections.service.js';
import { ReleasedController } from './released.controller.js';
import { ReleasedExercises } from './released.service.js';

/** Exercises that students have: amended, corrected, returned. */
@Module({
  imports: [ExercisesModule, SubmissionsModule],
  controllers: [ReleasedController],
  providers: [ReleasedExercises, Corrections],
})
export class ReleasedModule {}
