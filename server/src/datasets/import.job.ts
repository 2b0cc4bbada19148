import { SieveError } from '@modest-sieve/core';
import { Injectable } from '@nestjs/common';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { fetchFile } from '../platform/files/files.js';
import { JOBS } from '../platform/jobs/queues.js';
import { DataSetRecord, ImportRecord, VersionRecord } from './dataset.entity.js';
import { keepColumns } from './table-store.js';

/** Reads an imported file into a data set, or says why it could not be read. Running twice makes one data set. */
@Injectable()
export class ImportJob {
  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
  ) {}

  async run({ importId }: { importId: string }): Promise<void> {
    const db = await this.databases.of('worker');
    const record = await db.findOneBy(ImportRecord, { id: importId, state: 'waiting' });
    if (!record) return;
    const bytes = await fetchFile(db, 'vault', record.fileSha256);
    try {
      const read = await this.compute.run('importCsv', { bytes, file: record.fileName }, JOBS.import.seconds);
      await db.transaction(async (manager) => {
        const taken = await manager.update(
          ImportRecord,
          { id: importId, state: 'waiting' },
          { state: 'done' },
        );
        if (taken.affected !== 1) return;
        const name = dataSetName(record.fileName);
        const dataSet = await manager.save(DataSetRecord, {
          courseId: record.courseId,
          name,
        });
        const version = await manager.save(VersionRecord, {
          dataSetId: dataSet.id,
          number: 1,
          rowCount: read.rowCount,
          profile: read.profile,
          dialect: read.dialect,
          fileSha256: record.fileSha256,
        });
        await keepColumns(manager, version.id, read.columns);
        await manager.update(ImportRecord, { id: importId }, { dataSetId: dataSet.id });
        await announce(manager, { courseId: record.courseId, to: 'staff' });
      });
    } catch (error) {
      if (!(error instanceof SieveError)) throw error;
      await this.fail(importId, error.code, error.message);
    }
  }

  async fail(importId: string, code: string, message: string): Promise<void> {
    const db = await this.databases.of('worker');
    const record = await db.findOneByOrFail(ImportRecord, { id: importId });
    await db.transaction(async (manager) => {
      await manager.update(
        ImportRecord,
        { id: importId, state: 'waiting' },
        { state: 'failed', problem: { code, message } },
      );
      await announce(manager, { courseId: record.courseId, to: 'staff' });
    });
  }
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
