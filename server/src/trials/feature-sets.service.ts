import { Injectable } from '@nestjs/common';
import type { FeatureSetInfo, FeatureSetRequest } from '../api/api.js';
import type { Caller } from '../platform/access/access.js';
import { notFound, Problem } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { DataSetRecord } from '../store/dataset.entity.js';
import { FeatureSetRecord } from './feature-set.entity.js';

/** Sets that one data set may have. */
const MOST_SETS = 50;

/** Features that are saved by name, to compare them over the same folds. */
@Injectable()
export class FeatureSets {
  /** In the order in which they were first saved. */
  async list(caller: Caller, dataSetId: string): Promise<FeatureSetInfo[]> {
    await this.ofCourse(caller, dataSetId);
    const sets = await caller.db.find(FeatureSetRecord, {
      where: { dataSetId },
      order: { createdAt: 'ASC' },
    });
    return sets.map(({ id, name, features }) => ({ id, name, features }));
  }

  /** Saves features under a name; what the name stood for before is replaced. */
  async save(caller: Caller, dataSetId: string, { name, features }: FeatureSetRequest): Promise<void> {
    await this.ofCourse(caller, dataSetId);
    if (new Set(features).size < features.length)
      throw new Problem(422, 'feature-set', 'A feature is named twice.', { field: 'features' });
    await caller.db.transaction(async (manager) => {
      await manager.upsert(FeatureSetRecord, { dataSetId, name, features }, ['dataSetId', 'name']);
      if ((await manager.countBy(FeatureSetRecord, { dataSetId })) > MOST_SETS)
        throw new Problem(422, 'feature-set', `A data set has at most ${MOST_SETS} feature sets.`, {
          field: 'name',
        });
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'data' });
    });
  }

  async remove(caller: Caller, dataSetId: string, id: string): Promise<void> {
    await this.ofCourse(caller, dataSetId);
    await caller.db.transaction(async (manager) => {
      const { affected } = await manager.delete(FeatureSetRecord, { id, dataSetId });
      if (affected !== 1) throw notFound();
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'data' });
    });
  }

  private async ofCourse({ db, courseId }: Caller, id: string): Promise<void> {
    if (!(await db.existsBy(DataSetRecord, { id, courseId }))) throw notFound();
  }
}
