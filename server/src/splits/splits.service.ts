import type { SplitPlan } from '@modest-sieve/core/splitting';
import type { SplitConsequences, SeedSensitivity as Draws } from '@modest-sieve/core/audit';
import { Injectable } from '@nestjs/common';
import { DataSets } from '../datasets/datasets.service.js';
import { fetchColumns } from '../store/table-store.js';
import type { VersionAddress } from '../store/version-address.js';
import { note } from '../audit/note.js';
import { Reserves } from '../reserve/reserves.service.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { conflict } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { SplitAssignment, SplitRecord } from '../store/split.entity.js';
import { SPLIT_TASKS } from './split.tasks.js';

/** Time that a plan may compute, in seconds; and twenty draws of it. */
const SECONDS = 60;
const RECORD_SECONDS = 300;

@Injectable()
export class Splits {
  constructor(
    private readonly dataSets: DataSets,
    private readonly compute: Compute,
    private readonly reserves: Reserves,
  ) {}

  /** What a plan would give, without keeping it. */
  async preview(caller: Caller, at: VersionAddress, plan: SplitPlan): Promise<SplitConsequences> {
    const { stored, roles, reserve } = await this.marked(caller, at);
    const { consequences } = await this.compute.run(
      SPLIT_TASKS.split,
      { stored, roles, plan, reserve },
      within(caller, SECONDS),
    );
    return consequences;
  }

  /** How the plan's figures vary over twenty draws. */
  async record(caller: Caller, at: VersionAddress, plan: SplitPlan): Promise<Draws> {
    const { stored, roles } = await this.marked(caller, at);
    return this.compute.run(
      SPLIT_TASKS.seedSensitivity,
      { stored, roles, plan },
      within(caller, RECORD_SECONDS),
    );
  }

  async keep(caller: Caller, at: VersionAddress, plan: SplitPlan): Promise<{ id: string }> {
    const { stored, roles, rolesId, versionId, name, reserve } = await this.marked(caller, at);
    const { method, parts, consequences } = await this.compute.run(
      SPLIT_TASKS.split,
      { stored, roles, plan, reserve },
      SECONDS,
    );
    return caller.db.transaction(async (manager) => {
      const split = await manager.save(SplitRecord, {
        versionId,
        rolesId,
        method,
        plan,
        consequences,
        madeBy: caller.person.id,
      });
      await manager.insert(SplitAssignment, { splitId: split.id, parts: Buffer.from(parts.buffer) });
      await note(manager, caller, 'split kept', name, { method });
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'data' });
      return { id: split.id };
    });
  }

  /** A version of a data set whose columns are marked. */
  async marked(caller: Caller, at: VersionAddress) {
    const { dataSet, version, roles } = await this.dataSets.version(caller, at);
    if (!roles) throw conflict('no-target', 'Mark the target at Look first: rows are split with it in mind.');
    const { held, given } = await this.reserves.of(caller.db, version, roles.roles);
    const stored = await fetchColumns(caller.db, version);
    return {
      stored,
      roles: roles.roles,
      rolesId: roles.id,
      versionId: version.id,
      name: dataSet.name,
      reserve: { held, given },
    };
  }
}
