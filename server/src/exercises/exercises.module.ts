import { Module } from '@nestjs/common';
import { SubmissionsModule } from '../submissions/submissions.module.js';
import { ExercisesController } from './exercises.controller.js';
import { Exercises } from './exercises.service.js';

@Module({
  imports: [SubmissionsModule],
  controllers: [ExercisesController],
  providers: [Exercises],
  exports: [Exercises],
})
export class ExercisesModule {}
