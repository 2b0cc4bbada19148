import { deserialize, serialize } from 'node:v8';
import { deflateSync, inflateSync } from 'node:zlib';
import { slugOf } from '@modest-sieve/core/data';
import type { FoldAssignment } from '@modest-sieve/core/splitting';
import type { FoldConsequences } from '@modest-sieve/core/audit';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { FoldRequest } from '../api/api.js';
import { note } from '../audit/note.js';
import { RolesRecord, VersionRecord } from '../store/dataset.entity.js';
import { DataSets } from '../datasets/datasets.service.js';
import { fetchColumns } from '../store/table-store.js';
import type { VersionAddress } from '../store/version-address.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { notFound, Problem } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { FoldAssignmentRecord, FoldSetRecord, SplitAssignment, SplitRecord } from '../store/split.entity.js';
import { Splits } from './splits.service.js';
import { SPLIT_TASKS } from './split.tasks.js';

const SECONDS = 60;

/** The folds of a set as they were kept. */
export async function fetchFolds(manager: EntityManager, foldSetId: string): Promise<FoldAssignment> {
  const { folds } = await manager.findOneByOrFail(FoldAssignmentRecord, { foldSetId });
  return deserialize(inflateSync(folds)) as FoldAssignment;
}

/** Folds of all rows of a version, or of the training rows of a split: tried out, kept, and given out as a table. */
@Injectable()
export class FoldSets {
  constructor(
    private readonly splits: Splits,
    private readonly dataSets: DataSets,
    private readonly compute: Compute,
  ) {}

  async preview(caller: Caller, at: VersionAddress, request: FoldRequest): Promise<FoldConsequences> {
    return (await this.make(caller, at, request)).made.consequences;
  }

  async keep(caller: Caller, at: VersionAddress, request: FoldRequest): Promise<{ id: string }> {
    const { made, rolesId, versionId, name } = await this.make(caller, at, request);
    const { assignment, consequences } = made;
    return caller.db.transaction(async (manager) => {
      const { id } = await manager.save(FoldSetRecord, {
        versionId,
        rolesId,
        splitId: request.splitId,
        method: assignment.method,
        plan: request.plan,
        folds: consequences.count,
        repeats: consequences.repeats,
        rows: consequences.rows,
        madeBy: caller.person.id,
      });
      const folds = deflateSync(serialize(assignment));
      await manager.insert(FoldAssignmentRecord, { foldSetId: id, folds });
      await note(manager, caller, 'folds kept', name, { method: assignment.method });
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'data' });
      return { id };
    });
  }

  /** The fold table of a set: of the rows that take part, by their identifier or their place in the version from 0. */
  async table(caller: Caller, at: VersionAddress, id: string): Promise<{ name: string; csv: string }> {
    const { dataSet } = await this.dataSets.version(caller, at);
    const set = await caller.db.findOneBy(FoldSetRecord, { id });
    const version =
      set && (await caller.db.findOneBy(VersionRecord, { id: set.versionId, dataSetId: dataSet.id }));
    if (!version) throw notFound();
    const { roles } = await caller.db.findOneByOrFail(RolesRecord, { id: set.rolesId });
    const stored = await fetchColumns(caller.db, version);
    const folds = await fetchFolds(caller.db, id);
    const parts = await this.partsOf(caller.db, set.splitId);
    const csv = await this.compute.run(
      SPLIT_TASKS.foldTable,
      { stored, roles, parts, plan: set.plan, folds },
      SECONDS,
    );
    return { name: `${slugOf(dataSet.name)}-${version.number}-folds.csv`, csv };
  }

  private async make(caller: Caller, at: VersionAddress, { plan, splitId }: FoldRequest) {
    const marked = await this.splits.marked(caller, at);
    if (
      splitId !== null &&
      !(await caller.db.existsBy(SplitRecord, { id: splitId, versionId: marked.versionId }))
    )
      throw new Problem(422, 'no-such-split', 'Choose a split that was kept of this version.', {
        field: 'splitId',
      });
    const { stored, roles } = marked;
    const parts = await this.partsOf(caller.db, splitId);
    return {
      ...marked,
      made: await this.compute.run(
        SPLIT_TASKS.folds,
        { stored, roles, parts, plan },
        within(caller, SECONDS),
      ),
    };
  }

  private async partsOf(manager: EntityManager, splitId: string | null): Promise<Int8Array | null> {
    if (splitId === null) return null;
    const { parts } = await manager.findOneByOrFail(SplitAssignment, { splitId });
    return new Int8Array(parts);
  }
}
