import { setImmediate as others } from 'node:timers/promises';
import { count, SieveError } from '@modest-sieve/core/foundation';
import { Injectable } from '@nestjs/common';
import type { RunsLuck } from '../api/api.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { fetchMaterial } from './material.js';
import { unpackOutOfFold } from './trial.entity.js';
import { TRIAL_TASKS } from './trial.tasks.js';
import { Trials } from './trials.service.js';

const SECONDS = 120;
/** Predictions that are looked at together, as numbers: 160 MB. */
const MOST_PREDICTIONS = 2e7;

/** How much of the best of many runs is luck. */
@Injectable()
export class TrialLuck {
  constructor(
    private readonly trials: Trials,
    private readonly compute: Compute,
  ) {}

  /**
   * Of all runs over the folds of one: every setting of a search whose predictions were kept, and of other runs the chosen
   * setting. Settings of a curve or grid that were not chosen left no predictions.
   *
   * @throws SieveError `luck` where there are too many predictions
   */
  async ofRuns(caller: Caller, dataSetId: string, id: string, metric: string): Promise<RunsLuck> {
    const trial = await this.trials.done(caller, dataSetId, id);
    const kept: { trialId: string; place: number; outOfFold: Buffer }[] = await caller.db.query(
      `SELECT t.id AS "trialId", s.place, s.out_of_fold AS "outOfFold", t.created_at
         FROM vault.trial t JOIN vault.trial_setting s ON s.trial_id = t.id
        WHERE t.fold_set_id = $1 AND t.state = 'done' AND s.out_of_fold IS NOT NULL
       UNION ALL
       SELECT t.id, -1, m.out_of_fold, t.created_at
         FROM vault.trial t JOIN vault.trial_model m ON m.trial_id = t.id
        WHERE t.fold_set_id = $1 AND t.state = 'done'
        ORDER BY created_at, 1, 2`,
      [trial.foldSetId],
    );
    const isSearched = new Set(kept.filter(({ place }) => place >= 0).map(({ trialId }) => trialId));
    const counted = kept.filter(({ trialId, place }) => place >= 0 || !isSearched.has(trialId));
    const searched = [];
    let numbers = 0;
    for (const { outOfFold } of counted) {
      // Unpacking many takes a while, in which others are answered.
      await others();
      const own = unpackOutOfFold(outOfFold);
      numbers += own.rows.length * own.predicted.length;
      if (numbers > MOST_PREDICTIONS)
        throw new SieveError(
          'luck',
          `The runs over these folds have more than ${count(MOST_PREDICTIONS)} predictions: delete runs that are no longer needed.`,
        );
      searched.push(own);
    }
    const material = await fetchMaterial(caller.db, trial);
    const { luck } = await this.compute.run(
      TRIAL_TASKS.runsLuck,
      { ...material, searched, metric },
      within(caller, SECONDS),
    );
    return { luck, runs: new Set(counted.map(({ trialId }) => trialId)).size };
  }
}
