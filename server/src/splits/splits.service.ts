import type { SplitConsequences, SplitPlan } from '@modest-sieve/core';
import { Injectable } from '@nestjs/common';
import { DataSets } from '../datasets/datasets.service.js';
import { fetchColumns } from '../datasets/table-store.js';
import { note } from '../audit/note.js';
import type { Caller } from '../platform/access/access.js';
import { Compute } from '../platform/compute/compute.service.js';
import { conflict } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { SplitAssignment, SplitRecord } from './split.entity.js';

const SECONDS = 60;

@Injectable()
export class Splits {
  constructor(
    private readonly dataSets: DataSets,
    private readonly compute: Compute,
  ) {}

  /** What a plan would give, without keeping it. */
  async preview(caller: Caller, dataSetId: string, plan: SplitPlan): Promise<SplitConsequences> {
    return (await this.draw(caller, dataSetId, plan)).drawn.consequences;
  }

  async keep(caller: Caller, dataSetId: string, plan: SplitPlan): Promise<{ id: string }> {
    const { drawn, dataSet, versionId, rolesId } = await this.draw(caller, dataSetId, plan);
    return caller.db.transaction(async (manager) => {
      const { method, consequences } = drawn;
      const split = await manager.save(SplitRecord, {
        versionId,
        rolesId,
        method,
        plan,
        consequences,
        madeBy: caller.person.id,
      });
      await manager.insert(SplitAssignment, { splitId: split.id, parts: Buffer.from(drawn.parts.buffer) });
      await note(manager, caller, 'split kept', dataSet.name, { method, seed: plan.seed });
      await announce(manager, { courseId: caller.courseId, to: 'staff' });
      return { id: split.id };
    });
  }

  private async draw(caller: Caller, dataSetId: string, plan: SplitPlan) {
    const { dataSet, version, roles } = await this.dataSets.version(caller, dataSetId);
    if (!roles) throw conflict('no-target', 'Mark the target at Look first: a split needs to know it.');
    const stored = await fetchColumns(caller.db, version);
    const drawn = await this.compute.run('split', { stored, roles: roles.roles, plan }, SECONDS);
    return { drawn, dataSet, versionId: version.id, rolesId: roles.id };
  }
}
