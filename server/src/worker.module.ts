import { Module } from '@nestjs/common';
import { CheckJob } from './checking/check.job.js';
import { RemarkJob } from './checking/remark.job.js';
import { Runner } from './checking/runner.service.js';
import { ImportJob } from './datasets/import.job.js';
import { PrepareJob } from './datasets/prepare.job.js';
import { PackJob } from './exercises/pack.job.js';
import { SheetsJob } from './exercises/sheets.job.js';
import { ReserveModule } from './reserve/reserve.module.js';
import { TrialJob } from './trials/trial.job.js';
import { PlatformModule } from './platform/platform.module.js';

/** The worker process: no routes, only jobs. */
@Module({
  imports: [PlatformModule, ReserveModule],
  providers: [SheetsJob, ImportJob, PrepareJob, PackJob, TrialJob, CheckJob, RemarkJob, Runner],
})
export class WorkerModule {}
