import { Module } from '@nestjs/common';
import { ExercisesModule } from '../exercises/exercises.module.js';
import { SubmissionsController } from './submissions.controller.js';
import { Submissions } from './submissions.service.js';
import { AnswersOfClass } from './class-answers.service.js';
import { ReviewController } from './review.controller.js';
import { Review } from './review.service.js';
import { WearGauge } from './wear.service.js';

@Module({
  imports: [ExercisesModule],
  controllers: [SubmissionsController, ReviewController],
  providers: [Submissions, Review, WearGauge, AnswersOfClass],
  exports: [Submissions, Review],
})
export class SubmissionsModule {}
