import { Module } from '@nestjs/common';
import { ExercisesModule } from '../exercises/exercises.module.js';
import { SubmissionsController } from './submissions.controller.js';
import { SubmissionsModule } from './submissions.module.js';

/** The routes on which files are handed in and looked at; they need exercises, which need submissions. */
@Module({ imports: [ExercisesModule, SubmissionsModule], controllers: [SubmissionsController] })
export class HandInModule {}
