import { Module } from '@nestjs/common';
import { Submissions } from './submissions.service.js';

@Module({ providers: [Submissions], exports: [Submissions] })
export class SubmissionsModule {}
