import { createHash } from 'node:crypto';
import { checkTrial, everyFamily, type TrialPlan } from '@modest-sieve/core/evaluation';
import { Injectable } from '@nestjs/common';
import { In, type EntityManager } from 'typeorm';
import type { FamiliesRequest, TrialDetail, TrialInfo, TrialRequest } from '../api/api.js';
import { note } from '../audit/note.js';
import { DataSetRecord, RolesRecord, VersionRecord } from '../store/dataset.entity.js';
import type { Caller } from '../platform/access/access.js';
import { conflict, notFound, Problem } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { FoldSetRecord } from '../store/split.entity.js';
import { TrialModelRecord, TrialRecord, unpackOutOfFold, unpackText } from './trial.entity.js';
import { TRIAL_JOB } from './trial.job.js';

/** Models that an instructor tries over kept folds: asked for once, and kept. */
@Injectable()
export class Trials {
  constructor(private readonly jobs: Jobs) {}

  /** The trials of all versions of a data set, the latest first. */
  async list(caller: Caller, dataSetId: string): Promise<TrialInfo[]> {
    const versions = await this.versionsOf(caller, dataSetId);
    const found = await caller.db.find(TrialRecord, {
      where: { courseId: caller.courseId, foldSetId: In([...versions.keys()]) },
      order: { createdAt: 'DESC' },
    });
    const jobs = await this.jobsOf(caller, found);
    return found.map((trial) =>
      infoOf(trial, versions.get(trial.foldSetId) ?? 0, jobs.get(trial.id) ?? null),
    );
  }

  /** The number of the version that each fold set of a data set is of. */
  private async versionsOf(caller: Caller, dataSetId: string): Promise<Map<string, number>> {
    const sets: { id: string; number: number }[] = await caller.db.query(
      `SELECT f.id, v.number FROM fold_set f JOIN data_set_version v ON v.id = f.version_id
        WHERE v.data_set_id = $1`,
      [dataSetId],
    );
    return new Map(sets.map(({ id, number }) => [id, number]));
  }

  /** A trial of the course by its data set. */
  async find(caller: Caller, dataSetId: string, id: string): Promise<TrialRecord> {
    const trial = await caller.db.findOneBy(TrialRecord, { id, courseId: caller.courseId });
    const set = trial && (await caller.db.findOneBy(FoldSetRecord, { id: trial.foldSetId }));
    const isHere = set && (await caller.db.existsBy(VersionRecord, { id: set.versionId, dataSetId }));
    if (!isHere) throw notFound();
    return trial;
  }

  /** Starts a trial; one that was asked for before is answered from what is kept. */
  async run(caller: Caller, dataSetId: string, { foldSetId, plan }: TrialRequest): Promise<{ id: string }> {
    const { set, name, version } = await this.askedOn(caller, dataSetId, foldSetId);
    const { roles } = await caller.db.findOneByOrFail(RolesRecord, { id: set.rolesId });
    checkTrial(plan, roles, version.profile);
    return caller.db.transaction((manager) => this.start(manager, caller, { foldSetId, plan, name }));
  }

  /** Starts a trial of every family at default settings, or a search of each. @returns in the order of the families */
  async runFamilies(
    caller: Caller,
    dataSetId: string,
    { foldSetId, plan: shared }: FamiliesRequest,
  ): Promise<{ id: string }[]> {
    const { set, name, version } = await this.askedOn(caller, dataSetId, foldSetId);
    const { roles } = await caller.db.findOneByOrFail(RolesRecord, { id: set.rolesId });
    const plans = everyFamily(roles.task, shared);
    for (const plan of plans) checkTrial(plan, roles, version.profile);
    const started: { id: string }[] = [];
    // One after another, so that baselines run first: within one transaction all would be of the same moment.
    for (const plan of plans)
      started.push(
        await caller.db.transaction((manager) => this.start(manager, caller, { foldSetId, plan, name })),
      );
    return started;
  }

  /** The folds that a trial is to run over, with the version that they are of and the name of the data set. */
  private async askedOn(caller: Caller, dataSetId: string, foldSetId: string) {
    const set = await caller.db.findOneBy(FoldSetRecord, { id: foldSetId });
    const version = set && (await caller.db.findOneBy(VersionRecord, { id: set.versionId, dataSetId }));
    const dataSet =
      version && (await caller.db.findOneBy(DataSetRecord, { id: dataSetId, courseId: caller.courseId }));
    if (!dataSet)
      throw new Problem(422, 'no-such-folds', 'Choose folds that were kept of this data set.', {
        field: 'foldSetId',
      });
    return { set, version, name: dataSet.name };
  }

  private async start(
    manager: EntityManager,
    caller: Caller,
    { foldSetId, plan, name }: TrialRequest & { name: string },
  ): Promise<{ id: string }> {
    const planHash = hashOf(plan);
    const known = await manager.findOneBy(TrialRecord, { foldSetId, planHash });
    if (known && known.state !== 'failed') return { id: known.id };
    const { courseId } = caller;
    // One that failed is begun again with the folds that it had measured.
    const [made]: { id: string }[] = await manager.query(
      `INSERT INTO vault.trial AS t (course_id, fold_set_id, plan, plan_hash, made_by) VALUES ($1, $2, $3, $4, $5)
         ON CONFLICT (fold_set_id, plan_hash) DO UPDATE SET state = 'waiting', problem = NULL WHERE t.state = 'failed'
         RETURNING id`,
      [courseId, foldSetId, plan, planHash, caller.person.id],
    );
    // Somebody else asked at the same moment.
    if (!made) return { id: (await manager.findOneByOrFail(TrialRecord, { foldSetId, planHash })).id };
    await this.jobs.enqueue(manager, TRIAL_JOB, { courseId, trialId: made.id });
    await note(manager, caller, 'model tried', name, { model: plan.model.kind });
    await announce(manager, { courseId, to: 'staff', about: 'data' });
    return { id: made.id };
  }

  async detail(caller: Caller, dataSetId: string, id: string): Promise<TrialDetail> {
    const trial = await this.find(caller, dataSetId, id);
    const shown = await caller.db.findOneOrFail(TrialRecord, {
      where: { id },
      select: { id: true, detail: true },
    });
    const jobs = await this.jobsOf(caller, [trial]);
    const versions = await this.versionsOf(caller, dataSetId);
    const none = { settings: [], choices: {}, place: 0, model: null };
    return {
      ...infoOf(trial, versions.get(trial.foldSetId) ?? 0, jobs.get(id) ?? null),
      vary: trial.settled?.vary ?? [],
      ...(shown.detail ?? none),
    };
  }

  async rename(caller: Caller, dataSetId: string, id: string, name: string): Promise<void> {
    const { plan } = await this.find(caller, dataSetId, id);
    await caller.db.transaction(async (manager) => {
      await manager.update(TrialRecord, { id }, { name });
      await note(manager, caller, 'run renamed', name, { model: plan.model.kind });
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'data' });
    });
  }

  async remove(caller: Caller, dataSetId: string, id: string): Promise<void> {
    const trial = await this.find(caller, dataSetId, id);
    if (trial.isReference)
      throw conflict(
        'reference',
        'This run is a reference of exercises. Take that back before you delete it.',
      );
    if (trial.state === 'waiting') throw conflict('running', 'This run is under way. Cancel it first.');
    await caller.db.delete(TrialRecord, { id });
    await announce(caller.db, { courseId: caller.courseId, to: 'staff', about: 'data' });
  }

  /** A trial that has ended well. */
  async done(caller: Caller, dataSetId: string, id: string): Promise<TrialRecord> {
    const trial = await this.find(caller, dataSetId, id);
    if (trial.state !== 'done') throw conflict('not-done', 'This run is not done.');
    return trial;
  }

  /** The fitted model of a trial as JSON, and its predictions out of fold. */
  async modelOf(caller: Caller, trialId: string) {
    const { fitted, outOfFold } = await caller.db.findOneByOrFail(TrialModelRecord, { trialId });
    return { fitted: unpackText(fitted), outOfFold: unpackOutOfFold(outOfFold) };
  }

  private async jobsOf(caller: Caller, trials: readonly TrialRecord[]) {
    const waiting = trials.filter(({ state }) => state === 'waiting').map(({ id }) => id);
    if (waiting.length === 0) return new Map<string, TrialInfo['job']>();
    const found: { trialId: string; id: string; what: string; done: number; total: number }[] =
      await caller.db.query(
        `SELECT j.data ->> 'trialId' AS "trialId", j.id, coalesce(g.what, 'waiting for its turn') AS what,
                coalesce(g.done, 0) AS done, coalesce(g.total, 1) AS total
           FROM pgboss.job j LEFT JOIN job_progress g ON g.job_id = j.id
          WHERE j.name = 'trial' AND j.state IN ('created', 'retry', 'active') AND j.data ->> 'trialId' = ANY ($1)`,
        [waiting],
      );
    return new Map(found.map(({ trialId, ...job }) => [trialId, job]));
  }
}

function infoOf(trial: TrialRecord, version: number, job: TrialInfo['job']): TrialInfo {
  const { id, name, foldSetId, plan, state, problem, outcome, heldOut, isReference, createdAt } = trial;
  return {
    id,
    name,
    foldSetId,
    version,
    plan,
    state,
    problem,
    job,
    result: outcome ? { ...outcome, heldOut } : null,
    isReference,
    createdAt: createdAt.toISOString(),
  };
}

/** The same for the same plan, in whatever order its keys come. */
function hashOf(plan: TrialPlan): string {
  const ordered = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(ordered);
    if (typeof value !== 'object' || value === null) return value;
    return Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, own]) => [key, ordered(own)]);
  };
  return createHash('sha256')
    .update(JSON.stringify(ordered(plan)))
    .digest('hex');
}
