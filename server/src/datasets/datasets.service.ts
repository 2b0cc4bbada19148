import {
  cellText,
  checkRoles,
  labelsOf,
  columnNamed,
  suggestTask,
  type Roles,
  type Table,
} from '@modest-sieve/core';
import { Injectable } from '@nestjs/common';
import type { DataSetDetail, DataSetList, RowPage, TargetSuggestion } from '../api.js';
import type { Caller } from '../platform/access/access.js';
import { notFound } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { keepFile } from '../platform/files/files.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { SplitRecord } from '../splits/split.entity.js';
import { DataSetRecord, ImportRecord, RolesRecord, VersionRecord } from './dataset.entity.js';
import { fetchTable } from './table-store.js';

/** Tables that this process keeps at hand, so that turning a page does not fetch them anew. */
const TABLES_AT_HAND = 4;

@Injectable()
export class DataSets {
  private readonly atHand = new Map<string, Table>();

  constructor(private readonly jobs: Jobs) {}

  async list(caller: Caller): Promise<DataSetList> {
    const dataSets: DataSetList['dataSets'] = await caller.db.query(
      `SELECT d.id, d.name, v.row_count AS rows, jsonb_array_length(v.profile) AS columns,
              (SELECT r.roles ->> 'target' FROM column_roles r WHERE r.version_id = v.id ORDER BY r.revision DESC LIMIT 1) AS target,
              (SELECT count(*)::int FROM split s WHERE s.version_id = v.id) AS splits,
              d.created_at AS "createdAt"
         FROM data_set d JOIN data_set_version v ON v.data_set_id = d.id
        WHERE d.course_id = $1 ORDER BY d.created_at, d.id`,
      [caller.courseId],
    );
    const imports: DataSetList['imports'] = await caller.db.query(
      `SELECT id, file_name AS "fileName", state, problem FROM import
        WHERE course_id = $1 AND state <> 'done' ORDER BY created_at`,
      [caller.courseId],
    );
    return { dataSets, imports };
  }

  /** Keeps a file and enqueues its import in one transaction. */
  import(caller: Caller, fileName: string, bytes: Buffer): Promise<{ id: string }> {
    return caller.db.transaction(async (manager) => {
      const fileSha256 = await keepFile(manager, 'vault', bytes);
      const { id } = await manager.save(ImportRecord, {
        courseId: caller.courseId,
        fileName,
        fileSha256,
        state: 'waiting' as const,
      });
      await this.jobs.enqueue(manager, 'import', { importId: id });
      await announce(manager, { courseId: caller.courseId, personId: null });
      return { id };
    });
  }

  async dismiss(caller: Caller, importId: string): Promise<void> {
    await caller.db.delete(ImportRecord, { id: importId, courseId: caller.courseId, state: 'failed' });
  }

  async version(
    caller: Caller,
    dataSetId: string,
  ): Promise<{ dataSet: DataSetRecord; version: VersionRecord; roles: RolesRecord | null }> {
    const dataSet = await caller.db.findOneBy(DataSetRecord, { id: dataSetId, courseId: caller.courseId });
    const version =
      dataSet &&
      (await caller.db.findOne(VersionRecord, { where: { dataSetId }, order: { number: 'DESC' } }));
    if (!version) throw notFound();
    const roles = await caller.db.findOne(RolesRecord, {
      where: { versionId: version.id },
      order: { revision: 'DESC' },
    });
    return { dataSet, version, roles };
  }

  async detail(caller: Caller, dataSetId: string): Promise<DataSetDetail> {
    const { dataSet, version, roles } = await this.version(caller, dataSetId);
    const splits = await caller.db.find(SplitRecord, {
      where: { versionId: version.id },
      order: { createdAt: 'DESC' },
    });
    const exercises: DataSetDetail['exercises'] = await caller.db.query(
      `SELECT e.id, e.title, e.split_id AS "splitId", e.state FROM exercise e JOIN split s ON s.id = e.split_id
        WHERE s.version_id = $1 ORDER BY e.created_at`,
      [version.id],
    );
    return {
      id: dataSet.id,
      name: dataSet.name,
      version: version.number,
      rows: version.rowCount,
      dialect: version.dialect,
      profile: version.profile,
      roles: roles?.roles ?? null,
      splits: splits.map((split) => ({
        id: split.id,
        method: split.method,
        plan: split.plan,
        consequences: split.consequences,
        createdAt: split.createdAt.toISOString(),
      })),
      exercises,
    };
  }

  async rows(caller: Caller, dataSetId: string, offset: number, limit: number): Promise<RowPage> {
    const { version } = await this.version(caller, dataSetId);
    const table = await this.table(caller, version);
    const end = Math.min(table.rowCount, offset + limit);
    const rows = Array.from({ length: Math.max(0, end - offset) }, (_, i) =>
      table.columns.map((column) => cellText(column, offset + i)),
    );
    return { columns: table.columns.map((column) => column.name), offset, total: table.rowCount, rows };
  }

  /** What a column suggests if it were the target. */
  async suggest(caller: Caller, dataSetId: string, target: string): Promise<TargetSuggestion> {
    const { version } = await this.version(caller, dataSetId);
    const table = await this.table(caller, version);
    const task = suggestTask(table, target);
    const { labels } = labelsOf(columnNamed(table, target));
    return { task, labels: labels.slice(0, 100) };
  }

  /** Adds a revision of the roles; earlier ones stay, since splits refer to them. */
  async setRoles(caller: Caller, dataSetId: string, roles: Roles): Promise<void> {
    const { version, roles: before } = await this.version(caller, dataSetId);
    checkRoles(await this.table(caller, version), roles);
    await caller.db.insert(RolesRecord, {
      versionId: version.id,
      revision: (before?.revision ?? 0) + 1,
      roles,
      madeBy: caller.person.id,
    });
  }

  private async table(caller: Caller, version: VersionRecord): Promise<Table> {
    const table = this.atHand.get(version.id) ?? (await fetchTable(caller.db, version));
    this.atHand.delete(version.id);
    this.atHand.set(version.id, table);
    for (const oldest of this.atHand.keys())
      if (this.atHand.size > TABLES_AT_HAND) this.atHand.delete(oldest);
    return table;
  }
}
