import { Global, Module } from '@nestjs/common';
import { Compute } from './compute/compute.service.js';
import { ConfigModule } from './config/config.module.js';
import { Databases } from './database/databases.js';
import { Events } from './events/events.service.js';
import { Operation } from './operation/operation.server.js';
import { Stopping } from './events/stopping.js';
import { Limits } from './limits/limits.service.js';
import { ModelProcesses } from './models/model-process.js';
import { Jobs } from './jobs/jobs.service.js';

const SHARED = [Databases, Compute, ModelProcesses, Jobs, Events, Limits, Operation, Stopping];

/** What every feature is built on. */
@Global()
@Module({ imports: [ConfigModule], providers: SHARED, exports: SHARED })
export class PlatformModule {}
