import type { EntityManager } from 'typeorm';
import { RolesRecord, VersionRecord } from '../store/dataset.entity.js';
import { fetchColumns } from '../store/table-store.js';
import type { TrialMaterial } from './trial-material.js';
import { FoldSetRecord, SplitAssignment } from '../store/split.entity.js';
import type { TrialRecord } from './trial.entity.js';

/** What a trial is computed from, read again each time, since it is handed over to the thread that computes. */
export async function fetchMaterial(
  manager: EntityManager,
  { foldSetId, plan }: Pick<TrialRecord, 'foldSetId' | 'plan'>,
): Promise<TrialMaterial> {
  const set = await manager.findOneByOrFail(FoldSetRecord, { id: foldSetId });
  const version = await manager.findOneByOrFail(VersionRecord, { id: set.versionId });
  const { roles } = await manager.findOneByOrFail(RolesRecord, { id: set.rolesId });
  return {
    stored: await fetchColumns(manager, version),
    roles,
    parts: await fetchParts(manager, set.splitId),
    folds: set.plan,
    plan,
  };
}

/** The parts of the split that folds are of; null where they are of all rows. */
async function fetchParts(manager: EntityManager, splitId: string | null): Promise<Int8Array | null> {
  if (splitId === null) return null;
  const { parts } = await manager.findOneByOrFail(SplitAssignment, { splitId });
  return new Int8Array(parts);
}
