import { SieveError } from '@modest-sieve/core/foundation';
import type { MeasuredFold } from '@modest-sieve/core/evaluation';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { ABANDON } from '../platform/jobs/abandon.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import type { JobPayloads } from '../platform/jobs/queues.js';
import { fetchMaterial } from './material.js';
import {
  packOutOfFold,
  packText,
  TrialFoldRecord,
  TrialModelRecord,
  TrialRecord,
  type Settled,
} from './trial.entity.js';

/** Runs a trial fold by fold. Each fold is kept when it is measured, so that a worker goes on where another stopped. */
@Injectable()
export class TrialJob implements JobHandler<JobPayloads['trial']> {
  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
  ) {}

  async run(payload: JobPayloads['trial'], context: JobContext): Promise<void> {
    const db = await this.databases.of('worker');
    const trial = await db.findOneBy(TrialRecord, { id: payload.trialId, state: 'waiting' });
    if (!trial) return;
    try {
      const settled = trial.settled ?? (await this.settle(db, trial, context));
      const measured = await this.measure(db, trial, settled, context);
      await this.conclude(db, trial, settled, measured, context);
    } catch (error) {
      if (!(error instanceof SieveError)) throw error;
      const { code, message } = error;
      await db.transaction((manager) => ABANDON.trial(manager, payload, { code, message }));
    }
  }

  private async settle(
    db: EntityManager,
    trial: TrialRecord,
    { signal, progress }: JobContext,
  ): Promise<Settled> {
    await progress('finding the settings', 0, 1);
    const settled = await this.compute.run('settleTrial', await fetchMaterial(db, trial), signal);
    await db.update(TrialRecord, { id: trial.id }, { settled });
    return settled;
  }

  private async measure(
    db: EntityManager,
    trial: TrialRecord,
    { vary, repeats, count }: Settled,
    { signal, progress }: JobContext,
  ): Promise<MeasuredFold[]> {
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
    return measured;
  }

  private async measureOne(
    db: EntityManager,
    trial: TrialRecord,
    at: { vary: Settled['vary']; repeat: number; fold: number },
    signal: AbortSignal,
  ): Promise<MeasuredFold> {
    const material = await fetchMaterial(db, trial);
    const begun = performance.now();
    const measured = await this.compute.run('measureTrial', { ...material, ...at }, signal);
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
    { vary }: Settled,
    measured: readonly MeasuredFold[],
    { signal, progress }: JobContext,
  ): Promise<void> {
    await progress('fitting the chosen setting to all training rows', 0, 1);
    const material = await fetchMaterial(db, trial);
    const begun = performance.now();
    const { fitted, outOfFold, settings, choices, place, view, ...outcome } = await this.compute.run(
      'concludeTrial',
      { ...material, vary, measured },
      signal,
    );
    const last = (performance.now() - begun) / 1000;
    const [folds]: { seconds: number | null }[] = await db.query(
      'SELECT sum(seconds) AS seconds FROM vault.trial_fold WHERE trial_id = $1',
      [trial.id],
    );
    const chosen = settings[place];
    if (!chosen) throw new RangeError('a trial has a setting');
    await db.transaction(async (manager) => {
      const taken = await manager.update(
        TrialRecord,
        { id: trial.id, state: 'waiting' },
        {
          state: 'done',
          outcome: { ...outcome, chosen, settings: settings.length, seconds: last + (folds?.seconds ?? 0) },
          detail: { settings, choices, place, model: view },
        },
      );
      if (taken.affected !== 1) return;
      await manager.insert(TrialModelRecord, {
        trialId: trial.id,
        fitted: packText(fitted),
        outOfFold: packOutOfFold(outOfFold),
      });
      await announce(manager, { courseId: trial.courseId, to: 'staff' });
    });
  }

  orphans(manager: EntityManager): Promise<JobPayloads['trial'][]> {
    return manager.query(
      `SELECT t.course_id AS "courseId", t.id AS "trialId" FROM vault.trial t
        WHERE t.state = 'waiting'
          AND NOT EXISTS (SELECT 1 FROM pgboss.job j
                           WHERE j.name = 'trial' AND j.data ->> 'trialId' = t.id::text
                             AND j.state IN ('created', 'retry', 'active'))`,
    );
  }
}
