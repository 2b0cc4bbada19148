import { Module, ValidationPipe } from '@nestjs/common';
import { APP_FILTER, APP_GUARD, APP_PIPE, DiscoveryModule } from '@nestjs/core';
import { AdministrationModule } from '../administration/administration.module.js';
import { AuditModule } from '../audit/audit.module.js';
import { CoursesModule } from '../courses/courses.module.js';
import { DataSetsModule } from '../datasets/datasets.module.js';
import { ExercisesModule } from '../exercises/exercises.module.js';
import { GradebookModule } from '../gradebook/gradebook.module.js';
import { PeopleModule } from '../people/people.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { AccessGuard } from '../platform/access/access.guard.js';
import { Declarations } from '../platform/access/declarations.js';
import { CleanInputPipe } from '../platform/errors/clean-input.pipe.js';
import { ProblemFilter } from '../platform/errors/problem.filter.js';
import { AssemblyModule } from './assembly.module.js';
import { PlatformModule } from '../platform/platform.module.js';
import { ReserveModule } from '../reserve/reserve.module.js';
import { SplitsModule } from '../splits/splits.module.js';
import { TrialsModule } from '../trials/trials.module.js';
import { ReleasedModule } from '../released/released.module.js';
import { SubmissionsModule } from '../submissions/submissions.module.js';

/** The web process: HTTP routes over all features. */
@Module({
  imports: [
    AssemblyModule,
    PlatformModule,
    ReserveModule,
    PeopleModule,
    CoursesModule,
    DataSetsModule,
    SplitsModule,
    TrialsModule,
    ExercisesModule,
    SubmissionsModule,
    ReleasedModule,
    GradebookModule,
    AuditModule,
    AdministrationModule,
    JobsModule,
    DiscoveryModule,
  ],
  providers: [
    Declarations,
    { provide: APP_GUARD, useClass: AccessGuard },
    { provide: APP_FILTER, useClass: ProblemFilter },
    { provide: APP_PIPE, useClass: CleanInputPipe },
    {
      provide: APP_PIPE,
      useFactory: () => new ValidationPipe({ transform: true, whitelist: true, forbidNonWhitelisted: true }),
    },
  ],
})
export class WebModule {}
