import { SieveError } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import {
  settingsThatGoOn,
  summariseSetting,
  TRAINING_SHARE,
  type Luck,
  type RoundScore,
  type Setting,
} from '@modest-sieve/core/evaluation';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Compute } from '../platform/compute/compute.service.js';
import type { JobContext } from '../platform/jobs/handler.js';
import { fetchMaterial } from './material.js';
import {
  packOutOfFold,
  TrialSettingRecord,
  unpackOutOfFold,
  type SearchedFolds,
  type Settled,
  type TrialRecord,
} from './trial.entity.js';
import { TRIAL_TASKS, type SettingFolds } from './trial.tasks.js';

/** What a trial measured before it chooses. */
export interface MeasuredTrial {
  readonly measured: readonly SettingFolds[];
  readonly warnings: readonly string[];
  readonly seconds: number;
  readonly luck: Readonly<Record<string, Luck | null>> | null;
}

type Search = NonNullable<Settled['search']>;

/** A setting as the last round that measured it left it. */
interface Latest extends SearchedFolds {
  readonly values: Setting;
  readonly place: number;
  readonly round: number;
}

/** One setting in one round, over all folds. */
interface Unit {
  readonly search: Search;
  readonly round: number;
  readonly place: number;
  /** What is left of the time of the search. */
  readonly seconds: number;
}

/**
 * A search, setting by setting and round by round. Each setting is kept when it is measured, so that a worker goes on
 * where another stopped; when its time is over, it ends with what it has.
 */
@Injectable()
export class TrialSearch {
  constructor(private readonly compute: Compute) {}

  /** @throws SieveError `search` where no setting could be measured */
  async run(
    db: EntityManager,
    trial: TrialRecord,
    { search, count, repeats }: Settled,
    context: JobContext,
  ): Promise<MeasuredTrial> {
    if (!search || !trial.plan.search) throw new RangeError('a search has a plan');
    const known = await db.findBy(TrialSettingRecord, { trialId: trial.id });
    const total = search.rounds.reduce((sum, { settings }) => sum + settings, 0);
    const limit = trial.plan.search.minutes * 60;
    let seconds = known.reduce((sum, one) => sum + one.seconds, 0);
    const latest = new Map<number, Latest>();
    const what = `measuring settings over ${String(count * repeats)} folds`;
    let done = 0;
    let isOver = false;
    for (const [round, { settings }] of search.rounds.entries()) {
      if (isOver) break;
      const places =
        round === 0
          ? search.drawn.keys()
          : settingsThatGoOn(scoresOf([...latest.values()], trial), round, settings);
      for (const place of places) {
        context.signal.throwIfAborted();
        await context.progress(what, done, total);
        const before = known.find((one) => one.round === round && one.place === place);
        const unit = { search, round, place, seconds: limit - seconds };
        const begun = performance.now();
        const found = before?.measured ?? (await this.measure(db, trial, unit, context.signal));
        isOver = found === null;
        if (found === null) break;
        if (!before) seconds += (performance.now() - begun) / 1000;
        latest.set(place, { ...found, values: search.drawn[place] ?? {}, place, round });
        done++;
      }
    }
    const measured = measuredOf([...latest.values()], search, limit);
    const early = isOver ? [`The time of the search ended: ${done} of ${total} measurements were made.`] : [];
    const luck = await this.luckIn(db, trial, context);
    return { ...measured, warnings: [...early, ...measured.warnings], seconds, luck };
  }

  /** Measures a setting and keeps it; null where the time ended first. */
  private async measure(
    db: EntityManager,
    trial: TrialRecord,
    { search, round, place, seconds: left }: Unit,
    signal: AbortSignal,
  ): Promise<SearchedFolds | null> {
    if (left <= 0) return null;
    const keeps = search.keeps && round === search.rounds.length - 1;
    const share = search.rounds[round]?.share ?? 100;
    const asked = { values: search.drawn[place] ?? {}, share, keeps };
    const material = await fetchMaterial(db, trial);
    const begun = performance.now();
    const ended = AbortSignal.timeout(Math.ceil(left * 1000));
    const found = await this.compute
      .run(TRIAL_TASKS.measureSearched, { ...material, ...asked }, AbortSignal.any([signal, ended]))
      .then((of) => ({ ...of, problem: null }))
      .catch((error: unknown) => {
        if (error instanceof SieveError)
          return { folds: [], warnings: [], outOfFold: null, problem: error.message };
        if (ended.aborted && !signal.aborted) return null;
        throw error;
      });
    if (found === null) return null;
    const { outOfFold, ...measured } = found;
    await db
      .createQueryBuilder()
      .insert()
      .into(TrialSettingRecord)
      .values({
        trialId: trial.id,
        round,
        place,
        measured,
        outOfFold: outOfFold && packOutOfFold(outOfFold),
        seconds: (performance.now() - begun) / 1000,
      })
      .orIgnore()
      .execute();
    return measured;
  }

  /** By each metric how much of the best is luck; null where the predictions of fewer than two settings were kept. */
  private async luckIn(
    db: EntityManager,
    trial: TrialRecord,
    { signal, progress }: JobContext,
  ): Promise<MeasuredTrial['luck']> {
    const kept: { out_of_fold: Buffer; place: number }[] = await db.query(
      `SELECT place, out_of_fold FROM vault.trial_setting
        WHERE trial_id = $1 AND out_of_fold IS NOT NULL ORDER BY place`,
      [trial.id],
    );
    // The lead is over the setting that the search began with.
    if (kept.length < 2 || kept[0]?.place !== 0) return null;
    await progress('estimating how much of the best setting is luck', 0, 1);
    const searched = kept.map((one) => unpackOutOfFold(one.out_of_fold));
    const material = await fetchMaterial(db, trial);
    return this.compute.run(TRIAL_TASKS.searchLuck, { ...material, searched }, signal);
  }
}

/** How well each setting did in the last round that measured it, by the metric of the search. */
const scoresOf = (latest: readonly Latest[], { plan }: TrialRecord): RoundScore[] => {
  const metric = metricNamed(plan.metric);
  const sign = metric.better === 'higher' ? 1 : -1;
  return latest.map(({ place, round, values, folds }) => {
    const mean = summariseSetting(values, folds, [metric]).metrics[metric.key]?.mean ?? null;
    return { place, round, score: mean === null ? null : sign * mean };
  });
};

/** The settings that were measured, in the order in which they were drawn; one of a share of the rows says so. */
function measuredOf(
  latest: readonly Latest[],
  { rounds }: Search,
  limit: number,
): Pick<MeasuredTrial, 'measured' | 'warnings'> {
  const ordered = [...latest].sort((a, b) => a.place - b.place);
  const measured = ordered.flatMap(({ values, folds, round }) => {
    const share = rounds[round]?.share ?? 100;
    const own = share < 100 ? { ...values, [TRAINING_SHARE]: share } : values;
    return folds.length > 0 ? [{ values: own, folds }] : [];
  });
  const problems = ordered.flatMap(({ problem }) => (problem === null ? [] : [problem]));
  if (measured.length === 0)
    throw new SieveError(
      'search',
      problems[0] ??
        `Not one setting was measured within ${String(Number((limit / 60).toPrecision(3)))} minutes. Give the search more time, or fewer folds.`,
    );
  const failed =
    problems.length > 0
      ? [`${problems.length} of ${ordered.length} settings could not be fitted: ${problems[0] ?? ''}`]
      : [];
  return { measured, warnings: [...failed, ...ordered.flatMap(({ warnings }) => warnings)] };
}
