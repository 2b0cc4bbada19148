import { slugOf, type Roles } from '@modest-sieve/core/data';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { DataSetDetail, DataSetList } from '../api/api.js';
import { note } from '../audit/note.js';
import type { Caller } from '../platform/access/access.js';
import type { ExportFormat } from './table.tasks.js';
import { Compute } from '../platform/compute/compute.service.js';
import { notFound, Problem } from '../platform/errors/problem.js';
import { lockFor } from '../platform/database/lock.js';
import { announce } from '../platform/events/announce.js';
import { keepFile } from '../platform/files/files.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { reserveCounts, Reserves } from '../reserve/reserves.service.js';
import { FoldSetRecord, SplitRecord } from '../store/split.entity.js';
import {
  DataSetRecord,
  ImportRecord,
  type ImportOptions,
  PreparationRecord,
  RolesRecord,
  VersionRecord,
} from '../store/dataset.entity.js';
import { fetchColumns } from '../store/table-store.js';
import { removalOfDataSet, removalOfFolds, removalOfSplit, removalOfVersion, usesOf } from './uses.js';
import { versionAddress, type VersionAddress } from '../store/version-address.js';
import { currentVersion } from '../store/versions.js';
import { LOOK_TASKS } from './look.tasks.js';
import { TABLE_TASKS } from './table.tasks.js';
import { IMPORT_JOB } from './import.job.js';
import { dataSetLines, exercisesOn, openImports, versionLines } from './datasets.sql.js';

/** Time that a question about a table may compute, in seconds. */
const SECONDS = 30;
const EXPORT_SECONDS = 300;

@Injectable()
export class DataSets {
  constructor(
    private readonly jobs: Jobs,
    private readonly compute: Compute,
    private readonly reserves: Reserves,
  ) {}

  async list(caller: Caller): Promise<DataSetList> {
    return { dataSets: await dataSetLines(caller), imports: await openImports(caller) };
  }

  /**
   * Keeps a file and enqueues its import in one transaction.
   *
   * @param into the data set that it is a new raw table of; null for a new one
   */
  async import(
    caller: Caller,
    fileName: string,
    bytes: Buffer,
    into: string | null,
    options: ImportOptions = {},
  ): Promise<{ id: string }> {
    if (into !== null) await this.version(caller, { dataSetId: into, number: null });
    return caller.db.transaction(async (manager) => {
      const fileSha256 = await keepFile(manager, 'vault', bytes);
      return this.startImport(manager, caller, { fileName, fileSha256, intoId: into, options });
    });
  }

  /** Reads a file again that holds several tables, now that one of them is chosen. */
  chooseSheet(caller: Caller, importId: string, sheet: string): Promise<{ id: string }> {
    return caller.db.transaction(async (manager) => {
      const where = { id: importId, courseId: caller.courseId, state: 'failed' as const };
      const found = await manager.findOneBy(ImportRecord, where);
      if (!found) throw notFound();
      if (found.problem?.choices?.includes(sheet) !== true)
        throw new Problem(422, 'no-such-sheet', `${found.fileName} holds no “${sheet}”.`, { field: 'sheet' });
      // Somebody else may have chosen at the same moment.
      const { affected } = await manager.delete(ImportRecord, where);
      if (affected !== 1) throw notFound();
      const { fileName, fileSha256, intoId } = found;
      const options = { ...found.options, sheet };
      return this.startImport(manager, caller, { fileName, fileSha256, intoId, options });
    });
  }

  private async startImport(
    manager: EntityManager,
    caller: Caller,
    file: Pick<ImportRecord, 'fileName' | 'fileSha256' | 'intoId' | 'options'>,
  ): Promise<{ id: string }> {
    const { courseId } = caller;
    const { id } = await manager.save(ImportRecord, { courseId, ...file, state: 'waiting' as const });
    await this.jobs.enqueue(manager, IMPORT_JOB, { courseId, importId: id });
    await note(manager, caller, 'table brought', file.fileName);
    await announce(manager, { courseId, to: 'staff', about: 'data' });
    return { id };
  }

  async dismiss(caller: Caller, importId: string): Promise<void> {
    await caller.db.delete(ImportRecord, { id: importId, courseId: caller.courseId, state: 'failed' });
  }

  async version(
    caller: Caller,
    { dataSetId, number }: VersionAddress,
  ): Promise<{ dataSet: DataSetRecord; version: VersionRecord; roles: RolesRecord | null }> {
    const dataSet = await caller.db.findOneBy(DataSetRecord, { id: dataSetId, courseId: caller.courseId });
    const version =
      dataSet &&
      (number === null
        ? await currentVersion(caller.db, dataSet)
        : await caller.db.findOneBy(VersionRecord, { dataSetId, number }));
    if (!version) throw notFound();
    const roles = await caller.db.findOne(RolesRecord, {
      where: { versionId: version.id },
      order: { revision: 'DESC' },
    });
    return { dataSet, version, roles };
  }

  async detail(caller: Caller, at: VersionAddress): Promise<DataSetDetail> {
    const { dataSetId } = at;
    const { dataSet, version, roles } = await this.version(caller, at);
    const current = await currentVersion(caller.db, dataSet);
    const uses = await usesOf(caller.db, dataSetId);
    const splits = await caller.db.find(SplitRecord, {
      where: { versionId: version.id },
      order: { createdAt: 'DESC' },
    });
    const foldSets = await caller.db.find(FoldSetRecord, {
      where: { versionId: version.id },
      order: { createdAt: 'DESC' },
    });
    const exercises = await exercisesOn(caller, version.id);
    const versions = await versionLines(caller, dataSetId);
    const own = versions.find(({ number }) => number === version.number);
    const raw = versions.find(({ number }) => number === (own?.from ?? version.number));
    const [last] = await caller.db.find(PreparationRecord, {
      where: { dataSetId },
      order: { createdAt: 'DESC' },
      take: 1,
    });
    return {
      id: dataSet.id,
      address: versionAddress(dataSet.id, at.number),
      name: dataSet.name,
      current: current?.number ?? version.number,
      removal: removalOfDataSet(uses),
      descriptions: dataSet.descriptions,
      version: version.number,
      steps: version.steps,
      effects: version.effects,
      raw: { number: raw?.number ?? version.number, rows: raw?.rows ?? version.rowCount },
      versions: versions.map((one) => ({ ...one, removal: removalOfVersion(uses, one.number) })),
      preparation:
        last && last.state !== 'done'
          ? { id: last.id, state: last.state, problem: last.problem, steps: last.steps }
          : null,
      rows: version.rowCount,
      profile: version.profile,
      roles: roles?.roles ?? null,
      reserve: roles && (await this.reserveOf(caller, version, roles)),
      splits: splits.map((split) => ({
        id: split.id,
        name: split.name,
        removal: removalOfSplit(uses, split.id),
        method: split.method,
        plan: split.plan,
        consequences: split.consequences,
        createdAt: split.createdAt.toISOString(),
      })),
      foldSets: foldSets.map(({ id, name, method, plan, splitId, folds, repeats, rows, createdAt }) => ({
        id,
        name,
        removal: removalOfFolds(uses, id),
        method,
        plan,
        splitId,
        folds,
        repeats,
        rows,
        createdAt: createdAt.toISOString(),
      })),
      exercises,
    };
  }

  private async reserveOf(
    { db }: Caller,
    version: VersionRecord,
    { roles }: RolesRecord,
  ): Promise<DataSetDetail['reserve']> {
    const reserve = await this.reserves.of(db, version, roles);
    if (reserve.releases.length === 0) return null;
    return { ...reserveCounts(reserve), releases: reserve.releases.map(({ title }) => title) };
  }

  /** A version as a file. */
  async export(
    caller: Caller,
    at: VersionAddress,
    format: ExportFormat,
  ): Promise<{ name: string; bytes: Uint8Array }> {
    const { dataSet, version } = await this.version(caller, at);
    const stored = await fetchColumns(caller.db, version);
    const { name } = dataSet;
    const bytes = await this.compute.run(
      TABLE_TASKS.exportTable,
      { stored, format, name, steps: version.steps },
      EXPORT_SECONDS,
    );
    return { name: `${slugOf(name)}-${version.number}.${format}`, bytes };
  }

  /** Adds a revision of the roles; earlier ones stay, since splits refer to them. */
  async setRoles(caller: Caller, at: VersionAddress, roles: Roles): Promise<void> {
    const { dataSet, version } = await this.version(caller, at);
    const columns = version.profile.map(({ name, kind }) => ({ name, kind }));
    const stored = await fetchColumns(caller.db, version, { columns: [roles.target] });
    await this.compute.run(LOOK_TASKS.checkRoles, { stored, columns, roles }, SECONDS);
    await caller.db.transaction(async (manager) => {
      await lockFor(manager, `roles ${version.id}`);
      const revision = 1 + (await manager.countBy(RolesRecord, { versionId: version.id }));
      await manager.insert(RolesRecord, { versionId: version.id, revision, roles, madeBy: caller.person.id });
      await note(manager, caller, 'columns marked', dataSet.name, { target: roles.target, revision });
    });
  }

  /** Changes what columns mean, in words; empty words take those of a column away, and other columns keep theirs. */
  async describe(caller: Caller, at: VersionAddress, changes: Record<string, string>): Promise<void> {
    const { dataSet, version } = await this.version(caller, at);
    const names = new Set([...version.profile.map(({ name }) => name), ...Object.keys(dataSet.descriptions)]);
    const unknown = Object.keys(changes).find((name) => !names.has(name));
    if (unknown !== undefined)
      throw new Problem(422, 'no-such-column', `There is no column “${unknown}”.`, { field: unknown });
    await caller.db.transaction(async (manager) => {
      await lockFor(manager, `descriptions ${dataSet.id}`);
      const { descriptions } = await manager.findOneByOrFail(DataSetRecord, { id: dataSet.id });
      const words = Object.entries({ ...descriptions, ...changes }).map(([name, text]) => [
        name,
        text.trim(),
      ]);
      const kept = Object.fromEntries(words.filter(([, text]) => text !== '')) as Record<string, string>;
      await manager.update(DataSetRecord, { id: dataSet.id }, { descriptions: kept });
      await note(manager, caller, 'columns described', dataSet.name, { columns: Object.keys(kept).length });
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'data' });
    });
  }
}
