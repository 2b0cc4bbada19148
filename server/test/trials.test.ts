import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { readCsv, type Plan } from '@modest-sieve/core/data';
import { modelOf } from '@modest-sieve/core/models';
import type { TrialPlan } from '@modest-sieve/core/evaluation';
import { columnsFor, readModel } from '@modest-sieve/core/model-files';
import type { Schemas } from './world/schemas.js';
import { asOwner, courseWithTable, startWorld, until, Visitor, type World } from './world/world.js';

type Info = Schemas['TrialInfo'];

/** Colonies whose survival depends on their weight, with noise that a deep tree learns by heart. */
const ROWS = 240;
const TABLE = `colony,hive,weight,mites,forage,lost\n${Array.from({ length: ROWS }, (_, i) => {
  const weight = (i * 37) % 101;
  const noisy = (i * 53) % 7 < 1;
  const lost = weight < 40 !== noisy ? 'yes' : 'no';
  return `c${i},${'ABCDEFGHIJ'[i % 10]},${weight},${(i * 29) % 83},${['heather', 'lime', 'rape'][i % 3]},${lost}`;
}).join('\n')}\n`;

let world: World;
let ada: Visitor;
let dataSet: string;
let course: string;
let splitId: string;
let foldSetId: string;
let foldsOfAll: string;

const plan = (model: Plan, more: Partial<TrialPlan> = {}): TrialPlan => ({
  model,
  features: ['weight', 'mites', 'forage'],
  vary: [],
  metric: 'accuracy',
  choose: 'simplest',
  weight: null,
  seed: 1,
  ...more,
});

const start = (asked: unknown, set = foldSetId) =>
  ada.call<{ id: string; code: string }>('POST', `${dataSet}/trials`, { foldSetId: set, plan: asked });

/** A trial that has ended. */
async function ended(id: string): Promise<Schemas['TrialDetail']> {
  const { body } = await until(
    () => ada.call<Schemas['TrialDetail']>('GET', `${dataSet}/trials/${id}`),
    (answer) => answer.body.state !== 'waiting',
  );
  return body;
}

async function tried(asked: TrialPlan, set = foldSetId): Promise<Schemas['TrialDetail']> {
  const { status, body } = await start(asked, set);
  expect(status).toBe(202);
  return ended(body.id);
}

beforeAll(async () => {
  world = await startWorld();
  ada = await new Visitor(world.address).signUp('Ada Instructor');
  ({ course, dataSet } = await courseWithTable(ada, 'colonies.csv', TABLE));
  await ada.call('PUT', `${dataSet}/roles`, {
    target: 'lost',
    task: 'binary',
    positive: 'yes',
    identifier: 'colony',
    group: 'hive',
    time: null,
    weight: null,
    withheld: [],
  });
  const split = {
    sized: 'percent',
    training: 60,
    validation: 20,
    heldout: 20,
    stratify: 'lost',
    group: '',
    seed: 3,
  };
  const kept = await ada.call<{ id: string }>('POST', `${dataSet}/splits`, { kind: 'draw', values: split });
  splitId = kept.body.id;
  const folds = { kind: 'draw', values: { k: 4, stratify: 'lost', group: '', repeats: 1, seed: 5 } };
  const sets = [splitId, null].map((of) =>
    ada.call<{ id: string }>('POST', `${dataSet}/fold-sets`, { plan: folds, splitId: of }),
  );
  [foldSetId = '', foldsOfAll = ''] = (await Promise.all(sets)).map((made) => made.body.id);
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
      problem: { message: '700 settings are more than 200: name fewer values.' },
    });
  });
});

describe('evidence of a trial', () => {
  let id: string;
  const look = (query: string, of = id) =>
    ada.call<Schemas['TrialEvidence'] & { code: string }>('GET', `${dataSet}/trials/${of}/evidence?${query}`);

  beforeAll(async () => {
    id = (await tried(plan(modelOf('logistic')))).id;
  });

  it('is told out of fold, on training and on validation rows, by a column and by class', async () => {
    const { body: folds } = await look('rows=folds&by=forage');
    expect(folds).toMatchObject({ rows: 144, numbers: null });
    expect(folds.groups.map(({ value, rows }) => [value, rows]).length).toBe(3);
    expect(folds.groups.reduce((sum, { rows }) => sum + rows, 0)).toBe(144);
    expect(folds.levels.map(({ level }) => level)).toEqual(['no', 'yes']);
    expect(folds.classes?.confusion.flat().reduce((a, b) => a + b, 0)).toBe(144);
    expect(folds.classes?.roc[0]).toEqual({ x: 0, y: 0 });
    expect(folds.largest).toHaveLength(20);
    expect(folds.largest[0]?.name).toMatch(/^c\d+$/);
    expect((await look('rows=training')).body.rows).toBe(144);
    expect((await look('rows=validation')).body.rows).toBe(48);
    expect((await look('rows=folds&by=wieght')).status).toBe(422);
    expect((await look('rows=everything')).status).toBe(400);
  });

  it('on held-out rows is given only once it was asked for, and who asked is recorded', async () => {
    expect(await look('rows=held-out')).toMatchObject({ status: 409, body: { code: 'not-looked' } });
    expect((await ada.call('POST', `${dataSet}/trials/${id}/held-out`)).status).toBe(204);
    const { body } = await ada.call<Schemas['TrialDetail']>('GET', `${dataSet}/trials/${id}`);
    expect(body.result?.heldOut).toMatchObject({ by: 'Ada Instructor' });
    const { body: seen } = await look('rows=held-out');
    expect(seen.rows).toBe(48);
    expect(seen.figures['accuracy']).toEqual(body.result?.heldOut?.figures['accuracy']);
    const { body: trail } = await ada.call<Schemas['AuditPage']>('GET', `${course}/audit`);
    expect(JSON.stringify(trail)).toContain('held-out looked at');
  });

  it('on held-out rows is recorded once, also when two look at once', async () => {
    const other = (await tried(plan(modelOf('logistic'), { features: ['weight'] }))).id;
    const looks = [1, 2].map(() => ada.call('POST', `${dataSet}/trials/${other}/held-out`));
    expect((await Promise.all(looks)).map(({ status }) => status)).toEqual([204, 204]);
    const noted = await asOwner<{ n: number }>(
      `SELECT count(*)::int AS n FROM audit_event WHERE action = 'held-out looked at' AND course_id = $1`,
      [course.split('/').at(-1)],
    );
    expect(noted).toEqual([{ n: 2 }]);
  });

  it('of folds of all rows has no part that was held out', async () => {
    const all = await tried(plan(modelOf('logistic')), foldsOfAll);
    expect(all.result).toMatchObject({ rows: ROWS, validation: null });
    expect(await look('rows=validation', all.id)).toMatchObject({ status: 409, body: { code: 'no-split' } });
    expect((await ada.call('POST', `${dataSet}/trials/${all.id}/held-out`)).status).toBe(409);
  });

  it('of two runs: corrected test by metric, agreement and rows on which they differ; not over other folds', async () => {
    const tree = await tried(plan(modelOf('tree', { depth: 3 })));
    const { body } = await ada.call<Schemas['TrialAgainst']>(
      'GET',
      `${dataSet}/trials/${tree.id}/against/${id}`,
    );
    expect(body.tests['accuracy']).toMatchObject({ df: 3, difference: expect.any(Number) });
    expect(body.agreement).toBeGreaterThan(0);
    expect(body.rows.length).toBeGreaterThan(0);
    const all = await tried(plan(modelOf('tree', { depth: 3 })), foldsOfAll);
    const refused = await ada.call('GET', `${dataSet}/trials/${all.id}/against/${id}`);
    expect(refused).toMatchObject({ status: 409, body: { code: 'other-folds' } });
  });

  it('predicts one case, and warns outside the range of the training rows', async () => {
    const ask = (cells: unknown) =>
      ada.call<Schemas['CaseAnswer']>('POST', `${dataSet}/trials/${id}/case`, { cells });
    const { body } = await ask({ weight: '5', mites: '10', forage: 'lime' });
    expect(body).toMatchObject({ answer: 'yes', warnings: [] });
    expect(body.probabilities.reduce((sum, one) => sum + one.probability, 0)).toBeCloseTo(1, 12);
    const { body: far } = await ask({ weight: '5000', mites: '', forage: 'clover' });
    expect(far.warnings).toHaveLength(2);
    expect(await ask({ weight: 'heavy' })).toMatchObject({
      status: 422,
      body: { place: { field: 'weight' } },
    });
  });
});

describe('a run', () => {
  let id: string;
  beforeAll(async () => {
    id = (await tried(plan(modelOf('tree', { depth: 3 })))).id;
  });

  it.each([
    ['python', 'starter-python.ipynb'],
    ['r', 'starter-r.ipynb'],
    ['script', 'starter.py'],
  ])('can be taken elsewhere as %s, with the chosen setting', async (form, file) => {
    const { status, text, headers } = await ada.call('GET', `${dataSet}/trials/${id}/starter/${form}`);
    expect(status).toBe(200);
    expect(headers.get('content-disposition')).toBe(`attachment; filename="${file}"`);
    expect(text).toContain(form === 'r' ? 'maxdepth = 3' : 'max_depth=3');
    expect(text).toContain('folds.csv');
    const refused = await ada.call('GET', `${dataSet}/trials/${id}/starter/cobol`);
    expect(refused).toMatchObject({ status: 422, body: { code: 'starter' } });
  });

  it('can be taken elsewhere as a model, which says there of other rows what is said here', async () => {
    const rows = 'colony,forage,mites,weight\nn1,lime,10,5\nn2,rape,70,90\nn3,heather,40,41\n';
    const predicted = await ada.upload(`${dataSet}/trials/${id}/predictions`, 'new.csv', rows);
    expect(predicted.status).toBe(200);
    expect(predicted.headers.get('content-disposition')).toBe('attachment; filename="predictions.csv"');
    const [header = '', ...lines] = predicted.text.trim().split('\n');
    expect(header).toBe('colony,prediction,p:no,p:yes');
    expect(lines.map((line) => line.split(',').slice(0, 2))).toEqual([
      ['n1', 'yes'],
      ['n2', 'no'],
      ['n3', expect.stringMatching(/yes|no/)],
    ]);
    const { table } = readCsv(new TextEncoder().encode(rows), { file: 'new.csv' });
    const columns = table.columns.map(({ name }) => name);
    for (const format of ['json', 'pmml', 'onnx']) {
      const file = await ada.call('GET', `${dataSet}/trials/${id}/model/${format}`);
      expect(file.headers.get('content-disposition')).toBe(`attachment; filename="model.${format}"`);
      const model = readModel(Buffer.from(file.text, 'latin1'), `model.${format}`, { columns });
      const { probabilities } = await model.predict(table, columnsFor(model.inputs, columns));
      const yes = probabilities?.labels.indexOf('yes') ?? -1;
      lines.forEach((line, row) => {
        expect(probabilities?.values[yes]?.[row]).toBeCloseTo(Number(line.split(',')[3]), 6);
      });
    }
    expect(await ada.call('GET', `${dataSet}/trials/${id}/model/tarot`)).toMatchObject({
      status: 422,
      body: { code: 'model-format' },
    });
  });

  it('refuses to predict a table that lacks its columns, with their names', async () => {
    const refused = await ada.upload(
      `${dataSet}/trials/${id}/predictions`,
      'new.csv',
      'weight,mites\n5,10\n',
    );
    expect(refused).toMatchObject({ status: 422, body: { code: 'model-file' } });
    expect(refused.body.title).toContain('“forage”');
  });

  it('gives weight to a subgroup in three arms; one that is not there is refused', async () => {
    const ask = (value: string, weights: unknown = [2, 5]) =>
      ada.call<Schemas['ArmInfo'][]>('POST', `${dataSet}/trials/${id}/arms`, {
        column: 'forage',
        value,
        weights,
      });
    const { body } = await ask('lime');
    expect(body.map(({ kind }) => kind)).toEqual(['unweighted', 'weighted', 'weighted', 'subgroup only']);
    expect(body.every(({ subgroup, rest }) => subgroup.mean !== null && rest.mean !== null)).toBe(true);
    expect(await ask('clover')).toMatchObject({ status: 422, body: { code: 'emphasis' } });
    expect((await ask('lime', [-1])).status).toBe(400);
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
