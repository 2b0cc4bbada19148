import type { EntityManager } from 'typeorm';
import type { RemovalInfo } from '../api/api.js';

interface VersionUse {
  readonly id: string;
  readonly number: number;
  readonly baseId: string | null;
}

interface SplitUse {
  readonly id: string;
  readonly versionId: string;
  readonly usedBy: readonly string[];
}

interface FoldSetUse extends SplitUse {
  readonly splitId: string | null;
  readonly runs: number;
}

/** What there is of a data set, and what uses each thing. */
export interface Uses {
  readonly versions: readonly VersionUse[];
  readonly splits: readonly SplitUse[];
  readonly foldSets: readonly FoldSetUse[];
}

/**
 * Reads what uses the splits and folds of a data set. A release counts for good: what it held out must stay held out, even
 * when its exercise was withdrawn and set on another split, or deleted.
 */
export async function usesOf(db: EntityManager, dataSetId: string): Promise<Uses> {
  const versions: VersionUse[] = await db.query(
    'SELECT id, number, base_id AS "baseId" FROM data_set_version WHERE data_set_id = $1 ORDER BY number',
    [dataSetId],
  );
  const splits: SplitUse[] = await db.query(
    `SELECT s.id, s.version_id AS "versionId",
            ARRAY(SELECT 'the exercise “' || e.title || '”' FROM exercise e WHERE e.split_id = s.id
                   UNION
                  SELECT 'the release of “' || r.title || '”' FROM vault.release r
                   WHERE r.split_id = s.id AND NOT EXISTS (
                     SELECT 1 FROM exercise e WHERE e.id = r.exercise_id AND e.split_id = s.id)) AS "usedBy"
       FROM split s JOIN data_set_version v ON v.id = s.version_id WHERE v.data_set_id = $1`,
    [dataSetId],
  );
  const foldSets: FoldSetUse[] = await db.query(
    `SELECT f.id, f.version_id AS "versionId", f.split_id AS "splitId",
            (SELECT count(*)::int FROM vault.trial t WHERE t.fold_set_id = f.id) AS runs,
            ARRAY(SELECT 'the exercise “' || e.title || '”' FROM exercise e WHERE e.fold_set_id = f.id
                   UNION
                  SELECT 'a reference run' FROM vault.trial t WHERE t.fold_set_id = f.id AND t.is_reference
                   UNION
                  SELECT 'a run that is under way' FROM vault.trial t
                   WHERE t.fold_set_id = f.id AND t.state = 'waiting') AS "usedBy"
       FROM fold_set f JOIN data_set_version v ON v.id = f.version_id WHERE v.data_set_id = $1`,
    [dataSetId],
  );
  return { versions, splits, foldSets };
}

/** What is deleted together: everything that was made of versions, splits or folds that go. */
function removal(
  { versions, splits, foldSets }: Uses,
  goes: { readonly versions?: ReadonlySet<string>; readonly split?: string; readonly foldSet?: string },
): RemovalInfo {
  const gone = goes.versions ?? new Set<string>();
  const goneSplits = splits.filter(({ id, versionId }) => id === goes.split || gone.has(versionId));
  const ids = new Set(goneSplits.map(({ id }) => id));
  const goneFolds = foldSets.filter(
    ({ id, versionId, splitId }) =>
      id === goes.foldSet || gone.has(versionId) || (splitId !== null && ids.has(splitId)),
  );
  return {
    versions: gone.size,
    splits: goneSplits.length,
    folds: goneFolds.length,
    runs: goneFolds.reduce((sum, { runs }) => sum + runs, 0),
    usedBy: [...new Set([...goneSplits, ...goneFolds].flatMap(({ usedBy }) => usedBy))],
    isLast: gone.size > 0 && gone.size === versions.length,
  };
}

export const removalOfDataSet = (uses: Uses): RemovalInfo => ({
  ...removal(uses, { versions: new Set(uses.versions.map(({ id }) => id)) }),
  isLast: false,
});

/** A version goes with those that were made of it. */
export function removalOfVersion(uses: Uses, number: number): RemovalInfo {
  const gone = uses.versions.filter(({ id, baseId }) => {
    const version = uses.versions.find((one) => one.number === number);
    return version !== undefined && (id === version.id || baseId === version.id);
  });
  return removal(uses, { versions: new Set(gone.map(({ id }) => id)) });
}

export const removalOfSplit = (uses: Uses, split: string): RemovalInfo => removal(uses, { split });

export const removalOfFolds = (uses: Uses, foldSet: string): RemovalInfo => removal(uses, { foldSet });
