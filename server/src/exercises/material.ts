import type { SettingSummary } from '@modest-sieve/core/evaluation';
import { questionKindOf, runCurveOf, type Question, type RunCurve } from '@modest-sieve/core/assessment';
import type { EntityManager } from 'typeorm';
import { DataSetRecord, RolesRecord, VersionRecord } from '../store/dataset.entity.js';
import { fetchColumns } from '../store/table-store.js';
import { ReleaseRecord } from '../reserve/release.entity.js';
import type { Reserves } from '../reserve/reserves.service.js';
import { secretOf } from './secret.entity.js';
import { fetchFolds } from '../splits/folds.service.js';
import { SplitAssignment, SplitRecord } from '../store/split.entity.js';
import { unpackText } from '../trials/trial.entity.js';
import { SheetRecord } from './answer-key.js';
import { briefHead } from './briefs.service.js';
import type { ExerciseRecord } from './exercise.entity.js';
import type { PackInput } from './exercise.tasks.js';

/** What a pack and its keys are made of, fetched each time: the thread that computes takes it over. */
async function fetchRequest(db: EntityManager, exercise: ExerciseRecord, revision: number) {
  const { id, splitId, foldSetId, reissued } = exercise;
  const split = await db.findOneByOrFail(SplitRecord, { id: splitId });
  const { roles } = await db.findOneByOrFail(RolesRecord, { id: split.rolesId });
  const version = await db.findOneByOrFail(VersionRecord, { id: split.versionId });
  const { descriptions } = await db.findOneByOrFail(DataSetRecord, { id: version.dataSetId });
  const { parts } = await db.findOneByOrFail(SplitAssignment, { splitId });
  const { questions } = await db.findOneByOrFail(SheetRecord, { exerciseId: id, revision });
  const request = {
    ...(await briefHead(db, exercise)),
    stored: await fetchColumns(db, version),
    secret: await secretOf(db, id),
    roles,
    plan: split.plan,
    parts: new Int8Array(parts),
    folds: foldSetId === null ? null : await fetchFolds(db, foldSetId),
    descriptions,
    curves: await runCurves(db, splitId),
    references: await referenceModels(db, splitId),
    questions,
    reissued,
  };
  return { version, request };
}

/**
 * The request for the pack of an exercise that may be released: with the reserve of its data set, and what was given
 * before.
 */
export async function fetchDraftRequest(
  db: EntityManager,
  reserves: Reserves,
  exercise: ExerciseRecord,
  maker: string | null,
) {
  const { version, request } = await fetchRequest(db, exercise, exercise.revision);
  const reserve = await reserves.of(db, version, request.roles);
  const before = await reserves.releasedBefore(db, version, request.roles, maker);
  return {
    request: { ...request, ...before, reserve: reserve.division } satisfies PackInput,
    dataSetId: version.dataSetId,
    releases: reserve.releases.map(({ id }) => id),
  };
}

/** The same of a revision of an exercise that students have, with the division that it was released with. */
export async function fetchReleasedRequest(
  db: EntityManager,
  exercise: ExerciseRecord,
  revision: number,
): Promise<PackInput> {
  const { request } = await fetchRequest(db, exercise, revision);
  const release = await db.findOneOrFail(ReleaseRecord, {
    where: { exerciseId: exercise.id, splitId: exercise.splitId },
    order: { releasedAt: 'DESC' },
  });
  return { ...request, reserve: new Uint8Array(release.division), earlier: [], tables: {} };
}

/** The reference runs of a split as SQL: a list of ids. */
const runsOf = (split: string) => `(
  SELECT coalesce(jsonb_agg(t.id ORDER BY t.id), '[]') FROM vault.trial t JOIN fold_set f ON f.id = t.fold_set_id
   WHERE f.split_id = ${split} AND t.is_reference AND t.state = 'done')`;

/** The reference runs of a split where the keys of questions depend on them; null where none does. */
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
  const runs: { id: string; metric: string; family: string; settings: SettingSummary[] | null }[] =
    await db.query(
      `SELECT t.id, t.plan ->> 'metric' AS metric, t.plan -> 'model' ->> 'kind' AS family, t.detail -> 'settings' AS settings
       FROM vault.trial t JOIN fold_set f ON f.id = t.fold_set_id
      WHERE f.split_id = $1 AND t.is_reference AND t.state = 'done'`,
      [splitId],
    );
  return Object.fromEntries(
    runs.map(({ id, metric, family, settings }) => [id, runCurveOf(metric, family, settings ?? [])]),
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
