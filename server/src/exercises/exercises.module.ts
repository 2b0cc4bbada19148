import { Module } from '@nestjs/common';
import { Briefs } from './briefs.service.js';
import { ExercisesController } from './exercises.controller.js';
import { Exercises } from './exercises.service.js';
import { OwnSheets } from './own-sheets.service.js';
import { Tries } from './tries.service.js';

@Module({
  controllers: [ExercisesController],
  providers: [Briefs, OwnSheets, Exercises, Tries],
  exports: [Exercises, Briefs],
})
export class ExercisesModule {}
