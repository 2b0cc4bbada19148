import { SieveError } from '@modest-sieve/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { fetchFile } from '../platform/files/files.js';
import { ABANDON } from '../platform/jobs/abandon.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import type { JobPayloads } from '../platform/jobs/queues.js';
import { DataSetRecord, ImportRecord, VersionRecord } from './dataset.entity.js';
import { fetchColumns, keepColumns, newestRaw, nextVersion } from './table-store.js';

/** Reads an imported file into a data set, or says why it could not be read. Running twice makes one data set. */
@Injectable()
export class ImportJob implements JobHandler<JobPayloads['import']> {
  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
  ) {}

  async run(payload: JobPayloads['import'], { signal, progress }: JobContext): Promise<void> {
    const { importId } = payload;
    const db = await this.databases.of('worker');
    const record = await db.findOneBy(ImportRecord, { id: importId, state: 'waiting' });
    if (!record) return;
    const bytes = await fetchFile(db, 'vault', record.fileSha256);
    try {
      await progress('reading', 0, 1);
      const { sheet, combination, key } = record.options;
      const base = combination && record.intoId !== null ? await newestRaw(db, record.intoId) : null;
      const read = await this.compute.run(
        'importTable',
        {
          bytes,
          file: record.fileName,
          ...(sheet === undefined ? {} : { sheet }),
          onto:
            base && combination
              ? { stored: await fetchColumns(db, base), combination, key: key ?? '' }
              : null,
        },
        signal,
      );
      await db.transaction(async (manager) => {
        const taken = await manager.update(
          ImportRecord,
          { id: importId, state: 'waiting' },
          { state: 'done' },
        );
        if (taken.affected !== 1) return;
        const dataSetId = record.intoId ?? (await newDataSet(manager, record, read.descriptions));
        const version = await manager.save(VersionRecord, {
          dataSetId,
          number: await nextVersion(manager, dataSetId),
          rowCount: read.rowCount,
          profile: read.profile,
          fileSha256: record.fileSha256,
          baseId: null,
          steps: [],
          effects: [],
        });
        await keepColumns(manager, version.id, read.columns, async (done) => {
          signal.throwIfAborted();
          await progress('keeping columns', done, read.columns.length);
        });
        await manager.update(ImportRecord, { id: importId }, { dataSetId });
        await announce(manager, { courseId: record.courseId, to: 'staff' });
      });
    } catch (error) {
      if (!(error instanceof SieveError)) throw error;
      const { code, message, place } = error;
      const choices = place.choices ? { choices: place.choices } : {};
      await db.transaction((manager) => ABANDON.import(manager, payload, { code, message, ...choices }));
    }
  }

  orphans(manager: EntityManager): Promise<JobPayloads['import'][]> {
    return manager.query(
      `SELECT i.course_id AS "courseId", i.id AS "importId" FROM import i
        WHERE i.state = 'waiting'
          AND NOT EXISTS (SELECT 1 FROM pgboss.job j
                           WHERE j.name = 'import' AND j.id = i.id AND j.state IN ('created', 'retry', 'active'))`,
    );
  }
}

async function newDataSet(
  manager: EntityManager,
  { courseId, fileName }: ImportRecord,
  descriptions: Record<string, string>,
): Promise<string> {
  const { id } = await manager.save(DataSetRecord, { courseId, name: dataSetName(fileName), descriptions });
  return id;
}

/** "hive_records.csv" becomes "Hive records". */
function dataSetName(fileName: string): string {
  const words =
    fileName
      .replace(/\.[^.]*$/, '')
      .replace(/[_-]+/g, ' ')
      .trim() || fileName;
  return words.charAt(0).toUpperCase() + words.slice(1);
}
