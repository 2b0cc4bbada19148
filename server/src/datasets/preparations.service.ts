import type { PreparePreview, Step } from '@modest-sieve/core/data';
import { Injectable } from '@nestjs/common';
import { note } from '../audit/note.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { lockFor } from '../platform/database/lock.js';
import { conflict } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { PreparationRecord } from '../store/dataset.entity.js';
import { DataSets } from './datasets.service.js';
import { fetchColumns } from '../store/table-store.js';
import type { VersionAddress } from '../store/version-address.js';
import { rawOf } from '../store/versions.js';
import { TABLE_TASKS } from './table.tasks.js';
import { PREPARE_JOB } from './prepare.job.js';

/** Time that a preview may take, in seconds. */
const SECONDS = 60;

/** Steps on the raw table that a version was made of: tried out, and kept as a version. */
@Injectable()
export class Preparations {
  constructor(
    private readonly jobs: Jobs,
    private readonly dataSets: DataSets,
    private readonly compute: Compute,
  ) {}

  async preview(
    caller: Caller,
    at: VersionAddress,
    steps: readonly Step[],
    chosen: number | null,
  ): Promise<PreparePreview> {
    const { version } = await this.dataSets.version(caller, at);
    const raw = await rawOf(caller.db, version);
    const stored = await fetchColumns(caller.db, raw);
    return this.compute.run(
      TABLE_TASKS.previewPreparation,
      { stored, steps, chosen },
      within(caller, SECONDS),
    );
  }

  /** Asks for a version. One at a time is made of a data set; a request that failed makes room for the next. */
  async keep(caller: Caller, at: VersionAddress, steps: readonly Step[]): Promise<{ id: string }> {
    const { dataSet, version } = await this.dataSets.version(caller, at);
    const raw = await rawOf(caller.db, version);
    const dataSetId = dataSet.id;
    return caller.db.transaction(async (manager) => {
      await lockFor(manager, `preparation ${dataSetId}`);
      if (await manager.existsBy(PreparationRecord, { dataSetId, state: 'waiting' }))
        throw conflict('being-prepared', 'A version of this data set is being made already.');
      const { id } = await manager.save(PreparationRecord, {
        courseId: caller.courseId,
        dataSetId,
        baseId: raw.id,
        steps: [...steps],
        state: 'waiting' as const,
        madeBy: caller.person.id,
      });
      await note(manager, caller, 'steps kept', dataSet.name, { steps: steps.length });
      await this.jobs.enqueue(manager, PREPARE_JOB, { courseId: caller.courseId, preparationId: id });
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'data' });
      return { id };
    });
  }
}
