import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { fetchFile } from '../platform/files/files.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import { failRow, type JobKind, type JobPayload } from '../platform/jobs/job-kind.js';
import { DataSetRecord, ImportRecord, VersionRecord } from '../store/dataset.entity.js';
import { currentVersion, rawOf } from '../store/versions.js';
import { fetchColumns, keepColumns, lockVersions, nextVersion } from '../store/table-store.js';
import { TABLE_TASKS } from './table.tasks.js';

interface ImportPayload extends JobPayload {
  readonly importId: string;
}

/** A file is read into a data set. */
export const IMPORT_JOB: JobKind<ImportPayload> = {
  name: 'import',
  seconds: 300,
  retries: 2,
  atOnce: 1,
  runningOfPerson: 1,
  runningOfCourse: 1,
  waiting: 12,
  about: 'importId',
  isOnce: true,
  title: `SELECT file_name FROM import WHERE id = (j.data ->> 'importId')::uuid`,
  lastWord: 'The file could not be read in time. Try again, or import a smaller file.',
  cancelled: 'Reading the file was cancelled.',
  saysWhy: true,
  giveUp: failRow('import', 'importId', 'data'),
  waitingSubjects: `SELECT course_id AS "courseId", id AS "importId" FROM import WHERE state = 'waiting'`,
};

/** Reads an imported file into a data set, or says why it could not be read. Running twice makes one data set. */
@Injectable()
export class ImportJob implements JobHandler<ImportPayload> {
  readonly kinds = [IMPORT_JOB];

  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
  ) {}

  async run({ importId }: ImportPayload, context: JobContext): Promise<void> {
    const db = await this.databases.of('worker');
    const record = await db.findOneBy(ImportRecord, { id: importId, state: 'waiting' });
    if (!record) return;
    // Again, where another raw table came in between.
    while (!(await this.read(db, record, context)));
  }

  /** @returns false, and keeps nothing, where the raw table that the file was put to is not the current one any more */
  private async read(
    db: EntityManager,
    record: ImportRecord,
    { signal, progress }: JobContext,
  ): Promise<boolean> {
    const { id, intoId, fileName } = record;
    await progress('reading', 0, 1);
    const { sheet, combination, key } = record.options;
    const base = combination && intoId !== null ? await currentRaw(db, intoId) : null;
    const onto =
      base && combination ? { stored: await fetchColumns(db, base), combination, key: key ?? '' } : null;
    const bytes = await fetchFile(db, 'vault', record.fileSha256);
    const table = { bytes, file: fileName, onto, ...(sheet === undefined ? {} : { sheet }) };
    const read = await this.compute.run(TABLE_TASKS.importTable, table, signal);
    return db.transaction(async (manager) => {
      if (base) {
        await lockVersions(manager, base.dataSetId);
        if ((await currentRaw(manager, base.dataSetId))?.id !== base.id) return false;
      }
      const taken = await manager.update(ImportRecord, { id, state: 'waiting' }, { state: 'done' });
      if (taken.affected !== 1) return true;
      const dataSetId = intoId ?? (await newDataSet(manager, record, read.descriptions));
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
      await manager.update(DataSetRecord, { id: dataSetId }, { currentNumber: null });
      await keepColumns(manager, version.id, read.columns, async (done) => {
        signal.throwIfAborted();
        await progress('keeping columns', done, read.columns.length);
      });
      await manager.update(ImportRecord, { id }, { dataSetId });
      await announce(manager, { courseId: record.courseId, to: 'staff', about: 'data' });
      return true;
    });
  }
}

/** The raw table that steps on a data set are done on; null where the data set was deleted. */
async function currentRaw(manager: EntityManager, dataSetId: string): Promise<VersionRecord | null> {
  const dataSet = await manager.findOneBy(DataSetRecord, { id: dataSetId });
  const version = dataSet && (await currentVersion(manager, dataSet));
  return version && rawOf(manager, version);
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
