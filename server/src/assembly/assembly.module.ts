import { Global, Module } from '@nestjs/common';
import { TASK_WORKER } from '../platform/compute/task.js';
import { ENTITIES } from '../platform/database/databases.js';
import { JOB_KINDS } from '../platform/jobs/job-kind.js';
import { ALL_ENTITIES } from './entities.js';
import { ALL_JOB_KINDS } from './job-kinds.js';

/** As `task.worker.ts` is built and bundled, also for tests of the sources: a thread that translates them takes seconds. */
export const WORKER = new URL('../../dist/task-bundle.js', import.meta.url).href;

const PROVIDED = [
  { provide: ENTITIES, useValue: ALL_ENTITIES },
  { provide: JOB_KINDS, useValue: ALL_JOB_KINDS },
  { provide: TASK_WORKER, useValue: WORKER },
];

/** What the platform is given of the features, which it does not know. */
@Global()
@Module({ providers: PROVIDED, exports: PROVIDED })
export class AssemblyModule {}
