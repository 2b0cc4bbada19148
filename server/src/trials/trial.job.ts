import { settingsOf, type MeasuredFold } from '@modest-sieve/core/evaluation';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import { failRow, type JobKind, type JobPayload } from '../platform/jobs/job-kind.js';
import { fetchMaterial } from './material.js';
import {
  packOutOfFold,
  packText,
  TrialFoldRecord,
  TrialModelRecord,
  TrialRecord,
  type Settled,
} from './trial.entity.js';
import { TrialSearch, type MeasuredTrial } from './trial-search.js';
import { TRIAL_TASKS } from './trial.tasks.js';

interface TrialPayload extends JobPayload {
  readonly trialId: string;
}

/** A model is tried over folds. */
export const TRIAL_JOB: JobKind<TrialPayload> = {
  name: 'trial',
  seconds: 1800,
  retries: 5,
  atOnce: 1,
  runningOfPerson: 1,
  runningOfCourse: 1,
  waiting: 60,
  about: 'trialId',
  isOnce: false,
  title: `SELECT d.name FROM vault.trial t JOIN fold_set f ON f.id = t.fold_set_id
            JOIN data_set_version v ON v.id = f.version_id JOIN data_set d ON d.id = v.data_set_id
           WHERE t.id = (j.data ->> 'trialId')::uuid`,
  lastWord:
    'The model could not be tried in time. Try fewer settings or folds; what was measured is not lost if you ask again.',
  cancelled: 'The trial was cancelled.',
  saysWhy: true,
  giveUp: failRow('vault.trial', 'trialId', 'data'),
  waitingSubjects: `SELECT course_id AS "courseId", id AS "trialId" FROM vault.trial WHERE state = 'waiting'`,
};

/** Runs a trial fold by fold. Each fold is kept when it is measured, so that a worker goes on where another stopped. */
@Injectable()
export class TrialJob implements JobHandler<TrialPayload> {
  readonly kinds = [TRIAL_JOB];

  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
    private readonly search: TrialSearch,
  ) {}

  async run({ trialId }: TrialPayload, context: JobContext): Promise<void> {
    const db = await this.databases.of('worker');
    const trial = await db.findOneBy(TrialRecord, { id: trialId, state: 'waiting' });
    if (!trial) return;
    const settled = trial.settled ?? (await this.settle(db, trial, context));
    const found = settled.search
      ? await this.search.run(db, trial, settled, context)
      : await this.measure(db, trial, settled, context);
    await this.conclude(db, trial, settled.vary, found, context);
  }

  private async settle(
    db: EntityManager,
    trial: TrialRecord,
    { signal, progress }: JobContext,
  ): Promise<Settled> {
    await progress('finding the settings', 0, 1);
    const settled = await this.compute.run(TRIAL_TASKS.settleTrial, await fetchMaterial(db, trial), signal);
    await db.update(TrialRecord, { id: trial.id }, { settled });
    return settled;
  }

  private async measure(
    db: EntityManager,
    trial: TrialRecord,
    { vary, repeats, count }: Settled,
    { signal, progress }: JobContext,
  ): Promise<MeasuredTrial> {
    const known = await db.findBy(TrialFoldRecord, { trialId: trial.id });
    const folds = Array.from({ length: repeats * count }, (_, i) => ({
      repeat: Math.floor(i / count),
      fold: i % count,
    }));
    const settings = vary.reduce((product, one) => product * one.settings.length, 1);
    const what = settings > 1 ? `measuring folds, ${settings} settings in each` : 'measuring folds';
    const measured: MeasuredFold[] = [];
    for (const { repeat, fold } of folds) {
      signal.throwIfAborted();
      const found = known.find((one) => one.repeat === repeat && one.fold === fold);
      await progress(what, measured.length, folds.length);
      measured.push(
        found ? found.measured : await this.measureOne(db, trial, { vary, repeat, fold }, signal),
      );
    }
    const settingFolds = settingsOf(vary).map((values, s) => ({
      values,
      folds: measured.flatMap(({ figures }) => figures.slice(s, s + 1)),
    }));
    const [{ seconds } = { seconds: 0 }] = await db.query<{ seconds: number }[]>(
      'SELECT coalesce(sum(seconds), 0) AS seconds FROM vault.trial_fold WHERE trial_id = $1',
      [trial.id],
    );
    const warnings = measured.flatMap((one) => one.warnings);
    return { measured: settingFolds, warnings, seconds, luck: null };
  }

  private async measureOne(
    db: EntityManager,
    trial: TrialRecord,
    at: { vary: Settled['vary']; repeat: number; fold: number },
    signal: AbortSignal,
  ): Promise<MeasuredFold> {
    const material = await fetchMaterial(db, trial);
    const begun = performance.now();
    const measured = await this.compute.run(TRIAL_TASKS.measureTrial, { ...material, ...at }, signal);
    const { repeat, fold } = at;
    const seconds = (performance.now() - begun) / 1000;
    await db
      .createQueryBuilder()
      .insert()
      .into(TrialFoldRecord)
      .values({ trialId: trial.id, repeat, fold, measured, seconds })
      .orIgnore()
      .execute();
    return measured;
  }

  private async conclude(
    db: EntityManager,
    trial: TrialRecord,
    vary: Settled['vary'],
    { measured, warnings, seconds, luck }: MeasuredTrial,
    { signal, progress }: JobContext,
  ): Promise<void> {
    await progress('fitting the chosen setting to all training rows', 0, 1);
    const material = await fetchMaterial(db, trial);
    const begun = performance.now();
    const { fitted, outOfFold, settings, choices, place, view, ...outcome } = await this.compute.run(
      TRIAL_TASKS.concludeTrial,
      { ...material, vary, measured, warnings },
      signal,
    );
    const last = (performance.now() - begun) / 1000;
    const chosen = settings[place];
    if (!chosen) throw new RangeError('a trial has a setting');
    await db.transaction(async (manager) => {
      const taken = await manager.update(
        TrialRecord,
        { id: trial.id, state: 'waiting' },
        {
          state: 'done',
          outcome: { ...outcome, chosen, settings: settings.length, seconds: last + seconds },
          detail: { settings, choices, place, model: view, luck },
        },
      );
      if (taken.affected !== 1) return;
      await manager.insert(TrialModelRecord, {
        trialId: trial.id,
        fitted: packText(fitted),
        outOfFold: packOutOfFold(outOfFold),
      });
      await announce(manager, { courseId: trial.courseId, to: 'staff', about: 'data' });
    });
  }
}
