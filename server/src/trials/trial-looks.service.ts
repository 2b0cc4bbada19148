import { SieveError } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { modelFamilyOf, readFitted } from '@modest-sieve/core/models';
import type { Arm, Emphasis, Figures, TrialPlan } from '@modest-sieve/core/evaluation';
import { writeStarter, type StarterForm } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import { IsNull } from 'typeorm';
import type { CaseAnswer, EvidenceRows, ReferenceRun, TrialAgainst, TrialEvidence } from '../api/api.js';
import { note } from '../audit/note.js';
import { RolesRecord, VersionRecord } from '../store/dataset.entity.js';
import { fetchColumns } from '../store/table-store.js';
import type { Caller } from '../platform/access/access.js';
import { SAVED_FORMATS } from './trial-look.tasks.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { conflict, notFound } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { FoldSetRecord } from '../store/split.entity.js';
import { fetchMaterial } from './material.js';
import { TrialRecord } from './trial.entity.js';
import { Trials } from './trials.service.js';
import { TRIAL_LOOK_TASKS } from './trial-look.tasks.js';

const SECONDS = 60;

const titleOf = ({ model }: TrialPlan): string => modelFamilyOf(model).title;

/** Trials that are done, looked at from every side, taken elsewhere, and offered to exercises. */
@Injectable()
export class TrialLooks {
  constructor(
    private readonly trials: Trials,
    private readonly compute: Compute,
  ) {}

  async evidence(
    caller: Caller,
    dataSetId: string,
    id: string,
    on: EvidenceRows,
    by: string | null,
  ): Promise<TrialEvidence> {
    const trial = await this.trials.done(caller, dataSetId, id);
    if (on === 'held-out' && !trial.heldOut)
      throw conflict('not-looked', 'The held-out rows were not asked for yet: each look wears them out.');
    const { fitted, outOfFold } = await this.trials.modelOf(caller, id);
    const material = await fetchMaterial(caller.db, trial);
    if (material.parts === null && (on === 'validation' || on === 'held-out'))
      throw conflict('no-split', 'These folds are of all rows: there is no part that was held out.');
    return this.compute.run(
      TRIAL_LOOK_TASKS.trialEvidence,
      { ...material, fitted, outOfFold, on, by },
      within(caller, SECONDS),
    );
  }

  /** Shows the figures on the held-out rows, and records who looked first. */
  async lookAtHeldOut(caller: Caller, dataSetId: string, id: string): Promise<void> {
    const trial = await this.trials.done(caller, dataSetId, id);
    if (trial.heldOut) return;
    const { fitted } = await this.trials.modelOf(caller, id);
    const { stored, roles, parts } = await fetchMaterial(caller.db, trial);
    if (!parts?.includes(2))
      throw conflict('no-split', 'These folds are of all rows: there is no part that was held out.');
    const figures = await this.compute.run(
      TRIAL_LOOK_TASKS.heldOutFigures,
      { stored, roles, parts, fitted },
      SECONDS,
    );
    await caller.db.transaction(async (manager) => {
      const heldOut = { figures, at: caller.at.toISOString(), by: caller.person.name };
      const { affected } = await manager.update(TrialRecord, { id, heldOut: IsNull() }, { heldOut });
      // Somebody else looked at the same moment, and was first.
      if (affected !== 1) return;
      await note(manager, caller, 'held-out looked at', titleOf(trial.plan));
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'data' });
    });
  }

  async compare(caller: Caller, dataSetId: string, id: string, other: string): Promise<TrialAgainst> {
    const [first, second] = [
      await this.trials.done(caller, dataSetId, id),
      await this.trials.done(caller, dataSetId, other),
    ];
    const [a, b] = [first.outcome, second.outcome];
    if (first.foldSetId !== second.foldSetId || !a || !b)
      throw conflict('other-folds', 'Only runs over the same folds can be compared fold by fold.');
    const { stored, roles, parts, folds } = await fetchMaterial(caller.db, first);
    const models = await Promise.all([id, other].map((one) => this.trials.modelOf(caller, one)));
    const [x, y] = models;
    if (!x || !y) throw notFound();
    return this.compute.run(
      TRIAL_LOOK_TASKS.trialAgainst,
      {
        stored,
        roles,
        parts,
        folds,
        metric: first.plan.metric,
        first: { summary: a.chosen, outOfFold: x.outOfFold },
        second: { summary: b.chosen, outOfFold: y.outOfFold },
      },
      within(caller, SECONDS),
    );
  }

  async predictCase(
    caller: Caller,
    dataSetId: string,
    id: string,
    cells: Record<string, string>,
  ): Promise<CaseAnswer> {
    const trial = await this.trials.done(caller, dataSetId, id);
    const { fitted } = await this.trials.modelOf(caller, id);
    const set = await caller.db.findOneByOrFail(FoldSetRecord, { id: trial.foldSetId });
    const version = await caller.db.findOneByOrFail(VersionRecord, { id: set.versionId });
    const stored = await fetchColumns(caller.db, version, {
      columns: [...trial.plan.features],
      rows: [0, 1],
    });
    const spread = trial.outcome?.chosen.metrics['rmse']?.mean ?? null;
    return this.compute.run(
      TRIAL_LOOK_TASKS.predictCase,
      { stored, fitted, cells, spread },
      within(caller, SECONDS),
    );
  }

  /** A subgroup weighted in three arms, with the chosen setting of a run, over its folds. */
  async arms(caller: Caller, dataSetId: string, id: string, emphasis: Emphasis): Promise<Arm[]> {
    const trial = await this.trials.done(caller, dataSetId, id);
    const { fitted } = await this.trials.modelOf(caller, id);
    const material = await fetchMaterial(caller.db, trial);
    return this.compute.run(
      TRIAL_LOOK_TASKS.compareArms,
      { ...material, fitted, emphasis },
      within(caller, SECONDS),
    );
  }

  /** Offers a run to exercises, or no more. Its held-out figures are what marks are anchored by, so they are looked at. */
  async setReference(caller: Caller, dataSetId: string, id: string, isReference: boolean): Promise<void> {
    if (isReference) await this.lookAtHeldOut(caller, dataSetId, id);
    const trial = await this.trials.done(caller, dataSetId, id);
    await caller.db.transaction(async (manager) => {
      await manager.update(TrialRecord, { id }, { isReference });
      await note(manager, caller, isReference ? 'reference made' : 'reference dropped', titleOf(trial.plan));
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'data' });
    });
  }

  /** The model of a run as a file. @throws SieveError `model-format` */
  async savedModel(caller: Caller, dataSetId: string, id: string, asked: string): Promise<Uint8Array> {
    const { foldSetId } = await this.trials.done(caller, dataSetId, id);
    const format = SAVED_FORMATS.find((one) => one === asked);
    if (!format)
      throw new SieveError(
        'model-format',
        `A model is saved as ${SAVED_FORMATS.join(', ')}, not as “${asked}”.`,
        { field: 'format' },
      );
    const set = await caller.db.findOneByOrFail(FoldSetRecord, { id: foldSetId });
    const version = await caller.db.findOneByOrFail(VersionRecord, { id: set.versionId });
    const { fitted } = await this.trials.modelOf(caller, id);
    const dates = version.profile.filter(({ kind }) => kind === 'time').map(({ name }) => name);
    const { bytes } = await this.compute.run(
      TRIAL_LOOK_TASKS.savedModel,
      { fitted, format, dates },
      within(caller, SECONDS),
    );
    return bytes;
  }

  /** What a run says of the rows of another table. */
  async predictTable(
    caller: Caller,
    dataSetId: string,
    id: string,
    { name, bytes }: { readonly name: string; readonly bytes: Uint8Array },
  ): Promise<string> {
    const { foldSetId } = await this.trials.done(caller, dataSetId, id);
    const set = await caller.db.findOneByOrFail(FoldSetRecord, { id: foldSetId });
    const { identifier } = (await caller.db.findOneByOrFail(RolesRecord, { id: set.rolesId })).roles;
    const { fitted } = await this.trials.modelOf(caller, id);
    const { csv } = await this.compute.run(
      TRIAL_LOOK_TASKS.predictedTable,
      { fitted, bytes, file: name, identifier },
      within(caller, SECONDS),
    );
    return csv;
  }

  /** Notebook or script that repeats a run's preparation, folds and chosen model with the files of a pack. */
  async starter(caller: Caller, dataSetId: string, id: string, form: StarterForm): Promise<string> {
    const { plan, foldSetId } = await this.trials.done(caller, dataSetId, id);
    const set = await caller.db.findOneByOrFail(FoldSetRecord, { id: foldSetId });
    const { roles } = await caller.db.findOneByOrFail(RolesRecord, { id: set.rolesId });
    const version = await caller.db.findOneByOrFail(VersionRecord, { id: set.versionId });
    const { model, labels, recipe } = readFitted((await this.trials.modelOf(caller, id)).fitted);
    return writeStarter(
      {
        title: titleOf(plan),
        identifier: roles.identifier ?? 'row',
        target: roles.target,
        task: roles.task,
        labels,
        positive: roles.positive,
        needs: metricNamed(plan.metric).needs,
        features: version.profile.filter(({ name }) => recipe.features.some((kept) => kept.name === name)),
        isScreened: Boolean(plan.screening),
        weight: plan.weight,
        model,
        folds: set.method.startsWith('bootstrap') ? 'drawn' : 'assigned',
        seed: plan.seed,
        metric: plan.metric,
      },
      form,
    );
  }

  /** The reference runs of a split, with their figures on its held-out rows. */
  async references(caller: Caller, splitId: string): Promise<ReferenceRun[]> {
    const [known]: unknown[] = await caller.db.query(
      `SELECT 1 FROM split s JOIN data_set_version v ON v.id = s.version_id JOIN data_set d ON d.id = v.data_set_id
        WHERE s.id = $1 AND d.course_id = $2`,
      [splitId, caller.courseId],
    );
    if (known === undefined) throw notFound();
    const found: { id: string; plan: TrialPlan; figures: Figures }[] = await caller.db.query(
      `SELECT t.id, t.plan, t.held_out -> 'figures' AS figures
         FROM vault.trial t JOIN fold_set f ON f.id = t.fold_set_id
        WHERE f.split_id = $1 AND t.course_id = $2 AND t.is_reference AND t.held_out IS NOT NULL
        ORDER BY t.created_at`,
      [splitId, caller.courseId],
    );
    return found.map(({ id, plan, figures }) => ({ id, title: titleOf(plan), figures }));
  }
}
