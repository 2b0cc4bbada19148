import { Module } from '@nestjs/common';
import { GradebookController } from './gradebook.controller.js';
import { Gradebooks } from './gradebook.service.js';

@Module({ controllers: [GradebookController], providers: [Gradebooks] })
export class GradebookModule {}
