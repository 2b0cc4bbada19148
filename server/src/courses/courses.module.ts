import { Module } from '@nestjs/common';
import { CoursesController } from './courses.controller.js';
import { Courses } from './courses.service.js';

@Module({ controllers: [CoursesController], providers: [Courses], exports: [Courses] })
export class CoursesModule {}
