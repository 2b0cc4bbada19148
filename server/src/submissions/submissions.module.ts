import { Module } from '@nestjs/common';
import { WearGauge } from './wear.service.js';
import { Submissions } from './submissions.service.js';

@Module({ providers: [Submissions, WearGauge], exports: [Submissions, WearGauge] })
export class SubmissionsModule {}
