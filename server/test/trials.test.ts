import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { modelFamiliesFor, modelOf } from '@modest-sieve/core/models';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, until, type World } from './world/world.js';
import { Visitor } from './world/visitor.js';
import { plan, tableForTrials } from './world/trial-table.js';

type Info = Schemas['TrialInfo'];

type At = Awaited<ReturnType<typeof tableForTrials>>;

let world: World;
let ada: At['ada'];
let course: At['course'];
let dataSet: At['dataSet'];
let splitId: At['splitId'];
let foldSetId: At['foldSetId'];
let start: At['start'];
let ended: At['ended'];
let tried: At['tried'];
beforeAll(async () => {
  world = await startWorld();
  ({ ada, course, dataSet, splitId, foldSetId, start, ended, tried } = await tableForTrials(world));
});
afterAll(() => world.stop());

describe('a trial', () => {
  it('runs over kept folds: figures by fold, the curve’s choice, the model, validation, and nothing held out', async () => {
    const depths = [1, 2, 3, 5, 8, 12];
    const trial = await tried(plan(modelOf('tree'), { vary: [{ key: 'depth', settings: depths }] }));
    expect(trial).toMatchObject({ state: 'done', isReference: false });
    expect(trial.settings.map(({ values }) => values['depth'])).toEqual(depths);
    const accuracy = trial.settings.map(({ metrics }) => metrics['accuracy']);
    expect(accuracy.every((one) => one?.folds.length === 4 && one.se !== null)).toBe(true);
    // A deeper tree knows its training rows ever better.
    const train = accuracy.map((one) => one?.train ?? 0);
    expect(train).toEqual([...train].sort((a, b) => a - b));
    expect(train.at(-1)).toBeGreaterThan(0.99);
    // Every metric judges every setting, on training rows too.
    const [shallow, deep] = [trial.settings[0], trial.settings.at(-1)].map(
      (one) => one?.metrics['specificity'],
    );
    expect(deep?.train).toBeGreaterThan(shallow?.train ?? 1);
    expect(deep?.folds).toHaveLength(4);
    const choice = trial.choices['accuracy'];
    expect(choice?.memorising).toContain(depths.length - 1);
    expect(trial.place).toBe(choice?.simplest);
    expect(trial.result).toMatchObject({ rows: 144, heldOut: null, settings: 6, size: { of: 'leaves' } });
    expect(trial.result?.validation?.['accuracy']?.value).toBeGreaterThan(0.5);
    expect(trial.model?.tree?.nodes[0]?.rows).toBe(144);
    expect(trial.model?.rules.length).toBe(trial.result?.size?.count);
  });

  it('that was asked for before is answered from what is kept, also when asked twice at once', async () => {
    const asked = plan(modelOf('most-frequent'));
    const both = await Promise.all([start(asked), start(asked)]);
    const [first, second] = both.map(({ body }) => body.id);
    expect(first).toBe(second);
    const trial = await ended(first ?? '');
    const again = await start({ ...asked, model: { values: {}, kind: 'most-frequent' } });
    expect(again.body.id).toBe(first);
    const folds = await asOwner<{ n: number }>(
      'SELECT count(*)::int AS n FROM vault.trial_fold WHERE trial_id = $1',
      [first],
    );
    expect(folds).toEqual([{ n: 4 }]);
    expect(trial.result?.chosen.metrics['roc_auc']?.mean).toBe(0.5);
  });

  it('goes on where a worker stopped: what was measured is not measured again', async () => {
    const asked = plan(modelOf('nearest', { neighbours: 3 }));
    const known = await tried(asked);
    await asOwner(
      `UPDATE vault.trial SET state = 'failed', outcome = NULL, detail = NULL, problem = '{"code":"x","message":"y"}' WHERE id = $1`,
      [known.id],
    );
    await asOwner('DELETE FROM vault.trial_model WHERE trial_id = $1', [known.id]);
    await asOwner('DELETE FROM vault.trial_fold WHERE trial_id = $1 AND fold > 0', [known.id]);
    const [kept] = await asOwner<{ seconds: number }>(
      'SELECT seconds FROM vault.trial_fold WHERE trial_id = $1',
      [known.id],
    );
    const again = await tried(asked);
    expect(again.id).toBe(known.id);
    expect(again.result?.chosen).toEqual(known.result?.chosen);
    const after = await asOwner<{ seconds: number }>(
      'SELECT seconds FROM vault.trial_fold WHERE trial_id = $1 ORDER BY fold',
      [known.id],
    );
    expect(after).toHaveLength(4);
    expect(after[0]).toEqual(kept);
  });

  it.each([
    ['a feature that is the target', { features: ['lost'] }, 'features'],
    ['a column that is not there', { features: ['wieght'] }, 'features'],
    ['no feature', { features: [] }, 'features'],
    ['a metric of another task', { metric: 'rmse' }, 'metric'],
    ['a model of another task', { model: modelOf('mean') }, 'kind'],
    ['a setting out of range', { model: modelOf('tree', { depth: 0 }) }, 'depth'],
    ['a curve along nothing', { vary: [{ key: 'colour', settings: [1] }] }, 'vary'],
  ])('refuses %s and names the place', async (_, wrong, field) => {
    const reply = await start(plan(modelOf('tree'), wrong));
    expect(reply.status).toBe(422);
    expect(reply.body).toMatchObject({ place: { field } });
  });

  it('fails with a sentence where a model cannot be fitted, and waits no more', async () => {
    const asked = plan(modelOf('naive-bayes', { kind: 'multinomial' }), { features: ['balance'] });
    expect(await start(asked)).toMatchObject({ status: 422 });
    const weighed = plan(modelOf('tree'), { features: ['mites', 'forage'], weight: 'hive' });
    const trial = await tried(weighed);
    expect(trial).toMatchObject({
      state: 'failed',
      problem: { message: expect.stringContaining('hive holds no numbers') },
    });
  });
});

describe('a curve by training size', () => {
  it('is told for every share, and the run’s figures are those of all training rows, as its model is', async () => {
    const vary = [{ key: 'training_share', settings: [20, 60, 100] }];
    const trial = await tried(plan(modelOf('tree', { depth: 4 }), { vary }));
    expect(trial.settings).toHaveLength(3);
    expect(trial.result?.chosen.values).toEqual({ training_share: 100 });
    const plain = await tried(plan(modelOf('tree', { depth: 4 })));
    expect(trial.result?.chosen.metrics).toEqual(plain.result?.chosen.metrics);
    expect(trial.result?.training).toEqual(plain.result?.training);
  });

  it('of a grid that would have too many settings is refused, by a sentence that names the place', async () => {
    const vary = [
      { key: 'penalty', settings: [] },
      { key: 'mixing', settings: [] },
    ];
    const trial = await tried(plan(modelOf('elastic-net'), { vary, features: ['weight', 'mites'] }));
    expect(trial).toMatchObject({
      state: 'failed',
      problem: { message: '700 settings are more than 500: name fewer values.' },
    });
  });
});

describe('a reference run', () => {
  it('is offered to exercises of its split with its held-out figures, and cannot be deleted until it is taken back', async () => {
    const trial = await tried(plan(modelOf('class-shares')));
    const set = (isReference: boolean) =>
      ada.call('PUT', `${dataSet}/trials/${trial.id}/reference`, { isReference });
    const runs = async () =>
      (await ada.call<Schemas['ReferenceRun'][]>('GET', `${course}/splits/${splitId}/references`)).body;
    expect(await runs()).toEqual([]);
    expect((await set(true)).status).toBe(204);
    expect(await runs()).toMatchObject([
      { id: trial.id, title: 'the shares of the classes', figures: { roc_auc: { value: 0.5 } } },
    ]);
    expect(await ada.call('DELETE', `${dataSet}/trials/${trial.id}`)).toMatchObject({ status: 409 });
    await set(false);
    expect(await runs()).toEqual([]);
    expect((await ada.call('DELETE', `${dataSet}/trials/${trial.id}`)).status).toBe(204);
    expect((await ada.call('GET', `${dataSet}/trials/${trial.id}`)).status).toBe(404);
  });

  it('and every trial of another course is unknown', async () => {
    const eve = await new Visitor(world.address).signUp('Eve Instructor');
    const { body } = await eve.call<{ id: string }>('POST', '/courses', { name: 'Other', timeZone: 'UTC' });
    const [known] = (await ada.call<Info[]>('GET', `${dataSet}/trials`)).body;
    const own = dataSet.replace(course, `/courses/${body.id}`);
    expect((await eve.call('GET', `${own}/trials/${known?.id ?? ''}`)).status).toBe(404);
    expect((await eve.call<Info[]>('GET', `${own}/trials`)).body).toEqual([]);
    // A split of another course answers like one that is not there.
    const references = (split: string) => eve.call('GET', `/courses/${body.id}/splits/${split}/references`);
    const [theirs, none] = [await references(splitId), await references(randomUUID())];
    expect(theirs.status).toBe(404);
    expect(theirs.body).toMatchObject({ code: (none.body as { code: string }).code });
    expect(await eve.call('POST', `${own}/trials`, { foldSetId, plan: plan(modelOf('tree')) })).toMatchObject(
      {
        status: 422,
        body: { code: 'no-such-folds' },
      },
    );
  });
});

describe('cancelling', () => {
  it('ends a trial in the midst of its folds and says so; asked for again, it goes on', async () => {
    const slow = plan(modelOf('nearest'), {
      vary: [{ key: 'neighbours', settings: [1, 5] }],
      features: ['weight', 'mites'],
    });
    const many = await ada.call<{ id: string }>('POST', `${dataSet}/fold-sets`, {
      plan: { kind: 'draw', values: { k: 10, stratify: '', group: '', repeats: 20, seed: 9 } },
      splitId,
    });
    const { body } = await start(slow, many.body.id);
    const running = await until(
      async () => (await ada.call<Info[]>('GET', `${dataSet}/trials`)).body.find(({ id }) => id === body.id),
      (trial) => (trial?.job?.done ?? 0) > 2,
    );
    expect(running?.job).toMatchObject({ total: 200, what: expect.stringContaining('2 settings') });
    expect((await ada.call('DELETE', `${course}/jobs/${running?.job?.id ?? ''}`)).status).toBe(204);
    expect(await ended(body.id)).toMatchObject({
      state: 'failed',
      problem: { code: 'cancelled', message: 'The trial was cancelled.' },
    });
    const again = await start(slow, many.body.id);
    expect(again.body.id).toBe(body.id);
    expect((await ended(body.id)).state).toBe('done');
  });
});

// At the end: its trials stand before others in the queue.
describe('every family', () => {
  it('is tried at default settings over the same folds, each once, also when asked for twice', async () => {
    const shared = { features: ['weight', 'mites'], metric: 'accuracy', weight: null, seed: 5 };
    const ask = (features = shared.features) =>
      ada.call<{ id: string }[] & { code: string }>('POST', `${dataSet}/trials/families`, {
        foldSetId,
        plan: { ...shared, features },
      });
    expect(await ask(['lost'])).toMatchObject({ status: 422, body: { code: 'trial' } });
    const { status, body } = await ask();
    expect(status).toBe(202);
    expect((await ask()).body).toEqual(body);
    const { body: all } = await ada.call<Schemas['TrialInfo'][]>('GET', `${dataSet}/trials`);
    const isMine = ({ id }: Info) => body.some((own) => own.id === id);
    // The list begins with the latest; baselines run first.
    const mine = all.filter(isMine).reverse();
    expect(mine.map(({ plan: own }) => own.model.kind)).toEqual(
      modelFamiliesFor('binary').map(({ key }) => key),
    );
    expect(mine.every(({ plan: own }) => own.vary.length === 0 && own.features.length === 2)).toBe(true);
  });
});
