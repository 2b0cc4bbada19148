import type { Dependence, PermutationImportance } from '@modest-sieve/core/evaluation';
import { Injectable } from '@nestjs/common';
import type { ColumnScreening, FeatureSelection, ScreeningRequest, SelectionRequest } from '../api/api.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { fetchMaterial } from './material.js';
import { TRIAL_COLUMN_TASKS } from './trial-columns.tasks.js';
import { Trials } from './trials.service.js';

const SECONDS = 120;

/** What the features of a run do in its model. */
@Injectable()
export class TrialColumns {
  constructor(
    private readonly trials: Trials,
    private readonly compute: Compute,
  ) {}

  /** What shuffling each feature costs the chosen setting, over the folds. */
  async importance(
    caller: Caller,
    dataSetId: string,
    id: string,
    metric: string,
  ): Promise<PermutationImportance[]> {
    const asked = { ...(await this.fetch(caller, dataSetId, id)), metric };
    return this.compute.run(TRIAL_COLUMN_TASKS.columnImportance, asked, within(caller, SECONDS));
  }

  /** What the model predicts along one feature or two, over its training rows. */
  async dependence(
    caller: Caller,
    dataSetId: string,
    id: string,
    { columns, label }: { readonly columns: readonly string[]; readonly label: string | null },
  ): Promise<Dependence> {
    const asked = { ...(await this.fetch(caller, dataSetId, id)), columns, label };
    return this.compute.run(TRIAL_COLUMN_TASKS.columnDependence, asked, within(caller, SECONDS));
  }

  /** The features beside the target, and the model after screening inside and outside the folds. */
  async screening(
    caller: Caller,
    dataSetId: string,
    id: string,
    screening: ScreeningRequest,
  ): Promise<ColumnScreening> {
    const asked = { ...(await this.fetch(caller, dataSetId, id)), screening };
    return this.compute.run(TRIAL_COLUMN_TASKS.columnScreening, asked, within(caller, SECONDS));
  }

  /** Features chosen step by step, inside and outside the folds. */
  async selection(
    caller: Caller,
    dataSetId: string,
    id: string,
    selection: SelectionRequest,
  ): Promise<FeatureSelection> {
    const asked = { ...(await this.fetch(caller, dataSetId, id)), selection };
    return this.compute.run(TRIAL_COLUMN_TASKS.featureSelection, asked, within(caller, SECONDS));
  }

  private async fetch(caller: Caller, dataSetId: string, id: string) {
    const trial = await this.trials.done(caller, dataSetId, id);
    const { fitted } = await this.trials.modelOf(caller, id);
    return { ...(await fetchMaterial(caller.db, trial)), fitted };
  }
}
