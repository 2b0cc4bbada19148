import { Module } from '@nestjs/common';
import { SubmissionsModule } from '../submissions/submissions.module.js';
import { GradebookController } from './gradebook.controller.js';
import { Gradebooks } from './gradebook.service.js';

@Module({ imports: [SubmissionsModule], controllers: [GradebookController], providers: [Gradebooks] })
export class GradebookModule {}
