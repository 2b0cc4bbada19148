import { Module } from '@nestjs/common';
import { ImportJob } from '../datasets/import.job.js';
import { PrepareJob } from '../datasets/prepare.job.js';
import { deleteIdleTables } from '../datasets/upkeep.js';
import { PackJob } from '../exercises/pack.job.js';
import { SheetsJob } from '../exercises/sheets.job.js';
import { JOB_HANDLERS, type JobHandler } from '../platform/jobs/handler.js';
import { Runner } from '../platform/jobs/runner.service.js';
import { UPKEEP, type Upkeep } from '../platform/jobs/upkeep.js';
import { PlatformModule } from '../platform/platform.module.js';
import { RegradeJob } from '../released/regrade.job.js';
import { ReserveModule } from '../reserve/reserve.module.js';
import { CheckJob } from '../submissions/check.job.js';
import { deleteIdleAnswers } from '../submissions/upkeep.js';
import { TrialJob } from '../trials/trial.job.js';
import { TrialSearch } from '../trials/trial-search.js';
import { AssemblyModule } from './assembly.module.js';

const HANDLERS = [SheetsJob, ImportJob, PrepareJob, PackJob, TrialJob, CheckJob, RegradeJob];
const ALL_UPKEEP: readonly Upkeep[] = [deleteIdleAnswers, deleteIdleTables];

/** The worker process: no routes, only jobs. */
@Module({
  imports: [AssemblyModule, PlatformModule, ReserveModule],
  providers: [
    ...HANDLERS,
    TrialSearch,
    {
      provide: JOB_HANDLERS,
      useFactory: (...handlers: JobHandler[]) => handlers,
      inject: HANDLERS,
    },
    { provide: UPKEEP, useValue: ALL_UPKEEP },
    Runner,
  ],
})
export class WorkerModule {}
