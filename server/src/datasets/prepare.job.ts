import { SieveError } from '@modest-sieve/core/foundation';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { ABANDON } from '../platform/jobs/abandon.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import type { JobPayloads } from '../platform/jobs/queues.js';
import { packOrigin, VersionOrigin } from '../reserve/release.entity.js';
import { DataSetRecord, PreparationRecord, RolesRecord, VersionRecord } from './dataset.entity.js';
import { fetchColumns, keepColumns, nextVersion } from './table-store.js';

/** Makes a version by doing steps on a raw table, or says which step does not fit. Running twice makes one version. */
@Injectable()
export class PrepareJob implements JobHandler<JobPayloads['prepare']> {
  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
  ) {}

  async run(payload: JobPayloads['prepare'], { signal, progress }: JobContext): Promise<void> {
    const { preparationId } = payload;
    const db = await this.databases.of('worker');
    const asked = await db.findOneBy(PreparationRecord, { id: preparationId, state: 'waiting' });
    if (!asked) return;
    const { dataSetId, steps } = asked;
    const base = await db.findOneByOrFail(VersionRecord, { id: asked.baseId });
    try {
      await progress('preparing', 0, steps.length);
      const roles = await latestRoles(db, dataSetId);
      const stored = await fetchColumns(db, base);
      const made = await this.compute.run('prepare', { stored, steps, roles }, signal);
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
        await announce(manager, { courseId: asked.courseId, to: 'staff' });
      });
    } catch (error) {
      if (!(error instanceof SieveError)) throw error;
      const { code, message } = error;
      await db.transaction((manager) => ABANDON.prepare(manager, payload, { code, message }));
    }
  }

  orphans(manager: EntityManager): Promise<JobPayloads['prepare'][]> {
    return manager.query(
      `SELECT p.course_id AS "courseId", p.id AS "preparationId" FROM preparation p
        WHERE p.state = 'waiting'
          AND NOT EXISTS (SELECT 1 FROM pgboss.job j
                           WHERE j.name = 'prepare' AND j.id = p.id AND j.state IN ('created', 'retry', 'active'))`,
    );
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
