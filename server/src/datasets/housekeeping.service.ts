import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { RemovalInfo } from '../api/api.js';
import { note, type Action } from '../audit/note.js';
import type { Caller } from '../platform/access/access.js';
import { lockFor } from '../platform/database/lock.js';
import { conflict, notFound } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { FoldSetRecord, SplitRecord } from '../store/split.entity.js';
import { DataSetRecord, VersionRecord } from '../store/dataset.entity.js';
import {
  removalOfDataSet,
  removalOfFolds,
  removalOfSplit,
  removalOfVersion,
  usesOf,
  type Uses,
} from './uses.js';

/** What is made of a version. */
const PARTS = {
  splits: {
    record: SplitRecord,
    renamed: 'split renamed',
    deleted: 'split deleted',
    removal: removalOfSplit,
  },
  foldSets: {
    record: FoldSetRecord,
    renamed: 'folds renamed',
    deleted: 'folds deleted',
    removal: removalOfFolds,
  },
} as const;

/** Names of data sets, splits and folds; which version is current; and deleting what nothing uses. */
@Injectable()
export class Housekeeping {
  async renameDataSet(caller: Caller, dataSetId: string, name: string): Promise<void> {
    const { name: before } = await this.dataSet(caller, dataSetId);
    await this.write(caller, 'data set renamed', before, async (manager) => {
      await manager.update(DataSetRecord, { id: dataSetId }, { name });
    });
  }

  async removeDataSet(caller: Caller, dataSetId: string): Promise<void> {
    await this.remove(caller, dataSetId, 'data set deleted', removalOfDataSet, (manager) =>
      manager.delete(DataSetRecord, { id: dataSetId }),
    );
  }

  /** Goes on with an earlier version, or with a later one again. */
  async makeCurrent(caller: Caller, dataSetId: string, number: number): Promise<void> {
    const { name } = await this.dataSet(caller, dataSetId);
    if (!(await caller.db.existsBy(VersionRecord, { dataSetId, number }))) throw notFound();
    await this.write(caller, 'version made current', `${name}, version ${number}`, async (manager) => {
      await manager.update(DataSetRecord, { id: dataSetId }, { currentNumber: number });
    });
  }

  async removeVersion(caller: Caller, dataSetId: string, number: number): Promise<void> {
    await this.remove(
      caller,
      dataSetId,
      'version deleted',
      (uses) => {
        if (!uses.versions.some((one) => one.number === number)) throw notFound();
        return removalOfVersion(uses, number);
      },
      // Versions that were made of it, and all that was made of those, go with it.
      (manager) => manager.delete(VersionRecord, { dataSetId, number }),
      `version ${number}`,
    );
  }

  renameSplit(caller: Caller, dataSetId: string, id: string, name: string): Promise<void> {
    return this.renamePart(caller, dataSetId, 'splits', id, name);
  }

  removeSplit(caller: Caller, dataSetId: string, id: string): Promise<void> {
    return this.removePart(caller, dataSetId, 'splits', id);
  }

  renameFolds(caller: Caller, dataSetId: string, id: string, name: string): Promise<void> {
    return this.renamePart(caller, dataSetId, 'foldSets', id, name);
  }

  removeFolds(caller: Caller, dataSetId: string, id: string): Promise<void> {
    return this.removePart(caller, dataSetId, 'foldSets', id);
  }

  private async renamePart(
    caller: Caller,
    dataSetId: string,
    kind: keyof typeof PARTS,
    id: string,
    name: string,
  ): Promise<void> {
    const { record, renamed } = PARTS[kind];
    const { name: dataSet } = await this.dataSet(caller, dataSetId);
    this.known((await usesOf(caller.db, dataSetId))[kind], id);
    await this.write(caller, renamed, dataSet, async (manager) => {
      await manager.update<SplitRecord | FoldSetRecord>(record, { id }, { name });
    });
  }

  private async removePart(
    caller: Caller,
    dataSetId: string,
    kind: keyof typeof PARTS,
    id: string,
  ): Promise<void> {
    const { record, deleted, removal } = PARTS[kind];
    await this.remove(
      caller,
      dataSetId,
      deleted,
      (uses) => {
        this.known(uses[kind], id);
        return removal(uses, id);
      },
      (manager) => manager.delete<SplitRecord | FoldSetRecord>(record, { id }),
    );
  }

  private async dataSet({ db, courseId }: Caller, id: string): Promise<DataSetRecord> {
    const found = await db.findOneBy(DataSetRecord, { id, courseId });
    if (!found) throw notFound();
    return found;
  }

  private known(list: readonly { readonly id: string }[], id: string): void {
    if (!list.some((one) => one.id === id)) throw notFound();
  }

  private async remove(
    caller: Caller,
    dataSetId: string,
    action: Action,
    removal: (uses: Uses) => RemovalInfo,
    deleting: (manager: EntityManager) => Promise<unknown>,
    what = '',
  ): Promise<void> {
    const { name } = await this.dataSet(caller, dataSetId);
    await this.write(caller, action, what === '' ? name : `${name}, ${what}`, async (manager) => {
      // No release is recorded meanwhile.
      await lockFor(manager, `reserve ${dataSetId}`);
      const { usedBy, isLast } = removal(await usesOf(manager, dataSetId));
      if (usedBy.length > 0) throw conflict('in-use', `It is used by ${usedBy.join(', ')}.`);
      if (isLast)
        throw conflict('last-version', 'No other version would be left. Delete the data set instead.');
      await deleting(manager);
    });
  }

  private async write(
    caller: Caller,
    action: Action,
    subject: string,
    change: (manager: EntityManager) => Promise<void>,
  ): Promise<void> {
    await caller.db.transaction(async (manager) => {
      await change(manager);
      await note(manager, caller, action, subject);
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'data' });
    });
  }
}
