import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import { failRow, type JobKind, type JobPayload } from '../platform/jobs/job-kind.js';
import { packOrigin, VersionOrigin } from '../store/origin.entity.js';
import { DataSetRecord, PreparationRecord, RolesRecord, VersionRecord } from '../store/dataset.entity.js';
import { fetchColumns, keepColumns, nextVersion } from '../store/table-store.js';
import { TABLE_TASKS } from './table.tasks.js';

interface PreparePayload extends JobPayload {
  readonly preparationId: string;
}

/** A version is made of a raw table. */
export const PREPARE_JOB: JobKind<PreparePayload> = {
  name: 'prepare',
  seconds: 300,
  retries: 2,
  atOnce: 1,
  runningOfPerson: 1,
  runningOfCourse: 1,
  waiting: 12,
  about: 'preparationId',
  isOnce: true,
  title: `SELECT d.name FROM preparation p JOIN data_set d ON d.id = p.data_set_id WHERE p.id = (j.data ->> 'preparationId')::uuid`,
  lastWord:
    'The version could not be made in time. Save it again; if that fails too, the server’s log says more.',
  cancelled: 'Making the version was cancelled. The steps are still here.',
  saysWhy: true,
  giveUp: failRow('preparation', 'preparationId', 'data'),
  waitingSubjects: `SELECT course_id AS "courseId", id AS "preparationId" FROM preparation WHERE state = 'waiting'`,
};

/** Makes a version by doing steps on a raw table, or says which step does not fit. Running twice makes one version. */
@Injectable()
export class PrepareJob implements JobHandler<PreparePayload> {
  readonly kinds = [PREPARE_JOB];

  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
  ) {}

  async run({ preparationId }: PreparePayload, { signal, progress }: JobContext): Promise<void> {
    const db = await this.databases.of('worker');
    const asked = await db.findOneBy(PreparationRecord, { id: preparationId, state: 'waiting' });
    if (!asked) return;
    const { dataSetId, steps } = asked;
    const base = await db.findOneByOrFail(VersionRecord, { id: asked.baseId });
    await progress('preparing', 0, steps.length);
    const roles = await latestRoles(db, dataSetId);
    const stored = await fetchColumns(db, base);
    const made = await this.compute.run(TABLE_TASKS.prepare, { stored, steps, roles }, signal);
    await db.transaction(async (manager) => {
      const taken = await manager.update(
        PreparationRecord,
        { id: preparationId, state: 'waiting' },
        { state: 'done' },
      );
      if (taken.affected !== 1) return;
      const version = await manager.save(VersionRecord, {
        dataSetId,
        number: await nextVersion(manager, dataSetId),
        rowCount: made.rowCount,
        profile: made.profile,
        fileSha256: base.fileSha256,
        baseId: base.id,
        steps,
        effects: made.effects,
      });
      await manager.update(DataSetRecord, { id: dataSetId }, { currentNumber: null });
      await manager.insert(VersionOrigin, { versionId: version.id, origin: packOrigin(made.origin) });
      await keepColumns(manager, version.id, made.columns, async (done) => {
        signal.throwIfAborted();
        await progress('keeping columns', done, made.columns.length);
      });
      if (made.roles)
        await manager.insert(RolesRecord, {
          versionId: version.id,
          revision: 1,
          roles: made.roles,
          madeBy: asked.madeBy,
        });
      await announce(manager, { courseId: asked.courseId, to: 'staff', about: 'data' });
    });
  }
}

/** The roles of the current version; where it has none, those that were marked last on any other. */
async function latestRoles(db: EntityManager, dataSetId: string): Promise<RolesRecord['roles'] | null> {
  const [found]: Pick<RolesRecord, 'roles'>[] = await db.query(
    `SELECT r.roles FROM column_roles r JOIN data_set_version v ON v.id = r.version_id
       JOIN data_set d ON d.id = v.data_set_id
      WHERE d.id = $1 ORDER BY (v.number = d.current_number) IS TRUE DESC, v.number DESC, r.revision DESC LIMIT 1`,
    [dataSetId],
  );
  return found?.roles ?? null;
}
