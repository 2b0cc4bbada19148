import type { EntityManager } from 'typeorm';
import { type DataSetRecord, VersionRecord } from './dataset.entity.js';

/** The version that work goes on with: the one that was made last, unless an earlier one was made current again. */
export async function currentVersion(
  manager: EntityManager,
  { id: dataSetId, currentNumber }: Pick<DataSetRecord, 'id' | 'currentNumber'>,
): Promise<VersionRecord | null> {
  const chosen =
    currentNumber === null
      ? null
      : await manager.findOneBy(VersionRecord, { dataSetId, number: currentNumber });
  return chosen ?? manager.findOne(VersionRecord, { where: { dataSetId }, order: { number: 'DESC' } });
}

/** The raw table that a version was made of; a raw table itself for one that is raw. */
export const rawOf = async (manager: EntityManager, version: VersionRecord): Promise<VersionRecord> =>
  version.baseId === null ? version : manager.findOneByOrFail(VersionRecord, { id: version.baseId });
