import { questionKindOf, type Question, type RunCurve, type SettingSummary } from '@modest-sieve/core';
import type { EntityManager } from 'typeorm';
import { DataSetRecord, RolesRecord, VersionRecord } from '../datasets/dataset.entity.js';
import { fetchColumns } from '../datasets/table-store.js';
import { fetchFolds } from '../splits/folds.service.js';
import { SplitAssignment, SplitRecord } from '../splits/split.entity.js';
import { unpackText } from '../trials/trial.entity.js';
import type { ExerciseRecord } from './exercise.entity.js';

/** What packs and keys are made of, fetched anew each time: whoever computes is handed it over. */
export async function fetchExerciseMaterial(
  db: EntityManager,
  { splitId, foldSetId }: Pick<ExerciseRecord, 'splitId' | 'foldSetId'>,
) {
  const split = await db.findOneByOrFail(SplitRecord, { id: splitId });
  const { roles } = await db.findOneByOrFail(RolesRecord, { id: split.rolesId });
  const version = await db.findOneByOrFail(VersionRecord, { id: split.versionId });
  const { descriptions } = await db.findOneByOrFail(DataSetRecord, { id: version.dataSetId });
  const { parts } = await db.findOneByOrFail(SplitAssignment, { splitId });
  return {
    stored: await fetchColumns(db, version),
    roles,
    plan: split.plan,
    parts: new Int8Array(parts),
    folds: foldSetId === null ? null : await fetchFolds(db, foldSetId),
    descriptions,
    curves: await runCurves(db, splitId),
    references: await referenceModels(db, splitId),
  };
}

/** The reference runs of a split as SQL: a list of ids. */
const runsOf = (split: string) => `(
  SELECT coalesce(jsonb_agg(t.id ORDER BY t.id), '[]') FROM vault.trial t JOIN fold_set f ON f.id = t.fold_set_id
   WHERE f.split_id = ${split} AND t.is_reference AND t.state = 'done')`;

/** The reference runs of a split where the keys of questions hang on them; null where none does. */
export async function runsUsed(
  db: EntityManager,
  splitId: string,
  questions: readonly Question[],
): Promise<string[] | null> {
  if (!questions.some((question) => questionKindOf(question.kind).usesRuns(question))) return null;
  const [found]: { runs: string[] }[] = await db.query(`SELECT ${runsOf('$1')} AS runs`, [splitId]);
  return found?.runs ?? [];
}

/** Whether the keys `k` of an exercise `e` were computed from other reference runs than there are now. */
export const IS_STALE = `(k.runs IS NOT NULL AND k.runs <> ${runsOf('e.split_id')})`;

/** The curves of the reference runs over folds of a split, by run. */
async function runCurves(db: EntityManager, splitId: string): Promise<Record<string, RunCurve>> {
  const runs: { id: string; metric: string; settings: SettingSummary[] | null }[] = await db.query(
    `SELECT t.id, t.plan ->> 'metric' AS metric, t.detail -> 'settings' AS settings
       FROM vault.trial t JOIN fold_set f ON f.id = t.fold_set_id
      WHERE f.split_id = $1 AND t.is_reference AND t.state = 'done'`,
    [splitId],
  );
  return Object.fromEntries(
    runs.map(({ id, metric, settings }) => [
      id,
      {
        metric,
        points: (settings ?? []).map(({ values, metrics }) => ({
          setting: String(Object.values(values)[0] ?? ''),
          mean: metrics[metric]?.mean ?? null,
          se: metrics[metric]?.se ?? null,
        })),
      },
    ]),
  );
}

/** The models of the reference runs of a split, as JSON. */
async function referenceModels(db: EntityManager, splitId: string): Promise<string[]> {
  const models: { fitted: Buffer }[] = await db.query(
    `SELECT m.fitted FROM vault.trial_model m JOIN vault.trial t ON t.id = m.trial_id
       JOIN fold_set f ON f.id = t.fold_set_id
      WHERE f.split_id = $1 AND t.is_reference AND t.state = 'done'`,
    [splitId],
  );
  return models.map(({ fitted }) => unpackText(fitted));
}
