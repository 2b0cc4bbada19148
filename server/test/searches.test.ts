import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { modelOf } from '@modest-sieve/core/models';
import type { SearchPlan, TrialPlan } from '@modest-sieve/core/evaluation';
import type { Schemas } from './world/schemas.js';
import { plan, tableForTrials } from './world/trial-table.js';
import { asOwner, startWorld, until, type World } from './world/world.js';

type At = Awaited<ReturnType<typeof tableForTrials>>;

let world: World;
let ada: At['ada'];
let dataSet: At['dataSet'];
let course: At['course'];
let foldsOfAll: At['foldsOfAll'];
let start: At['start'];
let ended: At['ended'];
let tried: At['tried'];
beforeAll(async () => {
  world = await startWorld();
  ({ ada, course, dataSet, foldsOfAll, start, ended, tried } = await tableForTrials(world));
});
afterAll(() => world.stop());

const VARY = [
  { key: 'depth', settings: [1, 12] },
  { key: 'rows_per_leaf', settings: [1, 40] },
];
const search = (more: Partial<SearchPlan> = {}, rest: Partial<TrialPlan> = {}): TrialPlan =>
  plan(modelOf('tree', { depth: 9 }), {
    vary: VARY,
    search: { method: 'random', count: 10, minutes: 5, ...more },
    choose: 'best',
    ...rest,
  });

interface Measured {
  readonly round: number;
  readonly place: number;
  readonly seconds: number;
}
const measured = (id: string) =>
  asOwner<Measured>(
    'SELECT round, place, seconds FROM vault.trial_setting WHERE trial_id = $1 ORDER BY round, place',
    [id],
  );

/** As a worker that was ended leaves a search. */
async function interrupt(id: string, places: number) {
  await asOwner(
    `UPDATE vault.trial SET state = 'failed', outcome = NULL, detail = NULL, problem = '{"code":"x","message":"y"}' WHERE id = $1`,
    [id],
  );
  await asOwner('DELETE FROM vault.trial_model WHERE trial_id = $1', [id]);
  await asOwner('DELETE FROM vault.trial_setting WHERE trial_id = $1 AND place >= $2', [id, places]);
}

describe('a search', () => {
  it('says of all runs over the folds together how much of the best is luck', async () => {
    const folds = { k: 3, stratify: 'lost', group: '', repeats: 1, seed: 77 };
    const made = await ada.call<{ id: string }>('POST', `${dataSet}/fold-sets`, {
      plan: { kind: 'draw', values: folds },
      splitId: null,
    });
    const alone = await tried(plan(modelOf('most-frequent')), made.body.id);
    const ask = (metric = 'accuracy') =>
      ada.call<Schemas['RunsLuck']>('POST', `${dataSet}/trials/${alone.id}/luck`, { metric });
    expect((await ask()).body).toEqual({ luck: null, runs: 1 });
    // Settings that say the same, and models of noise that say something else by chance.
    const noise = { features: ['mites', 'forage'] };
    const depths = [1, 2, 3, 4, 5, 6, 8, 10].map((depth) => plan(modelOf('tree', { depth }), noise));
    for (const asked of depths) await tried(asked, made.body.id);
    const searched = await tried(search({}, noise), made.body.id);
    const { status, body } = await ask();
    expect(status).toBe(200);
    expect(body.runs).toBe(10);
    expect(body.luck?.settings).toBe(9 + (searched.result?.settings ?? 0));
    const best = Math.max(
      ...[alone, searched].map(({ result }) => result?.chosen.metrics['accuracy']?.mean ?? 0),
    );
    expect(body.luck?.seen).toBeGreaterThanOrEqual(best - 0.01);
    expect(body.luck?.luck).toBeGreaterThan(searched.luck?.['accuracy']?.luck ?? Infinity);
    // The same as asked again; runs over other folds take no part.
    expect((await ask()).body).toEqual(body);
    expect(await ask('rmse')).toMatchObject({ status: 422, body: { place: { field: 'metric' } } });
  });

  it('draws settings, the one of the sentence first, keeps the best, and says how much of it is luck', async () => {
    const trial = await tried(search());
    expect(trial).toMatchObject({ state: 'done', settings: { length: 10 } });
    expect(trial.settings[0]?.values).toEqual({ depth: 9, rows_per_leaf: 1 });
    const depths = trial.settings.map(({ values }) => values['depth'] ?? 0);
    expect(depths.every((depth) => depth >= 1 && depth <= 12)).toBe(true);
    const means = trial.settings.map(({ metrics }) => metrics['accuracy']?.mean ?? 0);
    expect(means[trial.place]).toBe(Math.max(...means));
    const luck = trial.luck?.['accuracy'];
    expect(luck?.settings).toBe(10);
    // Over all rows out of fold or as a mean over folds: nearly the same, since folds are of one size.
    expect(luck?.seen).toBeCloseTo(Math.max(...means), 1);
    expect(luck?.luck).toBeCloseTo((luck?.seen ?? 0) - (luck?.expected ?? 0), 12);
    // The winner is a model like any other.
    expect(trial.model?.tree?.nodes[0]?.rows).toBe(144);
    expect(trial.result?.chosen.values).toEqual(trial.settings[trial.place]?.values);
  });

  it('is answered from what is kept when it is asked for again, and is another one with another seed', async () => {
    const first = await tried(search());
    expect((await start(search())).body.id).toBe(first.id);
    expect((await start(search({}, { seed: 2 }))).body.id).not.toBe(first.id);
  });

  it('goes on where a worker stopped: what was measured is not measured again', async () => {
    const known = await tried(search({ count: 6 }));
    const before = await measured(known.id);
    await interrupt(known.id, 4);
    const again = await tried(search({ count: 6 }));
    expect(again.settings).toEqual(known.settings);
    expect(again.luck).toEqual(known.luck);
    const after = await measured(known.id);
    expect(after).toHaveLength(6);
    expect(after.slice(0, 4)).toEqual(before.slice(0, 4));
  });

  it('whose time is over ends with what it has, and says so', async () => {
    const asked = search({ count: 8, minutes: 1 });
    const known = await tried(asked);
    await interrupt(known.id, 3);
    await asOwner('UPDATE vault.trial_setting SET seconds = 30 WHERE trial_id = $1', [known.id]);
    const again = await tried(asked);
    expect(again.settings).toHaveLength(3);
    expect(again.result?.warnings).toContain('The time of the search ended: 3 of 8 measurements were made.');
  });

  it('that has no time for a single setting fails with a sentence', async () => {
    const trial = await tried(search({ minutes: 0.00001 }));
    expect(trial).toMatchObject({
      state: 'failed',
      problem: { message: expect.stringContaining('Not one setting was measured within 0.00001 minutes') },
    });
  });

  it('by halving measures all on few rows, and the best third with the first setting on all', async () => {
    const trial = await tried(search({ method: 'halving', count: 9 }), foldsOfAll);
    const rounds = (await measured(trial.id)).map(({ round }) => round);
    expect(rounds).toEqual([...Array<number>(9).fill(0), ...Array<number>(3).fill(1)]);
    const whole = trial.settings.filter(({ values }) => !('training_share' in values));
    expect(whole).toHaveLength(3);
    expect(trial.settings[0]?.values).toEqual({ depth: 9, rows_per_leaf: 1 });
    expect(trial.luck?.['accuracy']?.settings).toBe(3);
    expect(trial.settings[trial.place]?.values).not.toHaveProperty('training_share');
    const best = trial.settings
      .slice(1)
      .map(({ metrics, values }) => ({ mean: metrics['accuracy']?.mean ?? 0, values }));
    expect(best.filter(({ values }) => 'training_share' in values)).toHaveLength(6);
  });

  it('is cancelled in its midst, keeps what was measured, and goes on when it is asked for again', async () => {
    const asked = search(
      { count: 12 },
      { model: modelOf('forest', { trees: 400 }), vary: [{ key: 'rows_per_leaf', settings: [1, 60] }] },
    );
    const { body } = await start(asked);
    const path = `${dataSet}/trials/${body.id}`;
    await until(
      () => measured(body.id),
      (found) => found.length > 1,
    );
    const { job } = (await ada.call<{ job: { id: string } }>('GET', path)).body;
    expect((await ada.call('DELETE', `${course}/jobs/${job.id}`)).status).toBe(204);
    expect(await ended(body.id)).toMatchObject({
      state: 'failed',
      problem: { message: 'The trial was cancelled.' },
    });
    const kept = await measured(body.id);
    expect(kept.length).toBeLessThan(12);
    const again = await tried(asked);
    expect(again.settings).toHaveLength(12);
    expect((await measured(body.id)).slice(0, kept.length)).toEqual(kept);
  });

  it.each([
    ['of a single setting', { search: { method: 'random' as const, count: 1, minutes: 1 } }, 'search'],
    ['of too many', { search: { method: 'random' as const, count: 501, minutes: 1 } }, 'search'],
    ['without time', { search: { method: 'random' as const, count: 5, minutes: 0 } }, 'search'],
    ['of an hour', { search: { method: 'random' as const, count: 5, minutes: 60 } }, 'search'],
    ['through nothing', { vary: [] }, 'vary'],
    ['through sizes of the training rows', { vary: [{ key: 'training_share', settings: [] }] }, 'vary'],
    ['through one setting twice', { vary: [VARY[0], VARY[0]] as TrialPlan['vary'] }, 'vary'],
    ['beyond what a setting can be', { vary: [{ key: 'depth', settings: [0, 5] }] }, 'vary'],
  ])('%s is refused, and the place is named', async (_, wrong, field) => {
    const reply = await start({ ...search(), ...wrong });
    expect(reply.status).toBe(422);
    expect(reply.body).toMatchObject({ place: { field } });
  });

  it('by no method that is known is refused', async () => {
    expect((await start({ ...search(), search: { method: 'luck', count: 5, minutes: 1 } })).status).toBe(400);
  });
});
