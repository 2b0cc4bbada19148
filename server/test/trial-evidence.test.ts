import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { readCsv } from '@modest-sieve/core/data';
import { modelOf } from '@modest-sieve/core/models';
import { columnsFor, readModel } from '@modest-sieve/core/model-files';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, type World } from './world/world.js';
import { ROWS, plan, tableForTrials } from './world/trial-table.js';

type At = Awaited<ReturnType<typeof tableForTrials>>;

let world: World;
let ada: At['ada'];
let course: At['course'];
let dataSet: At['dataSet'];
let foldsOfAll: At['foldsOfAll'];
let tried: At['tried'];
beforeAll(async () => {
  world = await startWorld();
  ({ ada, course, dataSet, foldsOfAll, tried } = await tableForTrials(world));
});
afterAll(() => world.stop());

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
    const rowsIn = (counts: readonly (readonly number[])[] = []) => counts.flat().reduce((a, b) => a + b, 0);
    const { labels, first, second } = body.confusions ?? {};
    expect(labels).toEqual(['no', 'yes']);
    expect(rowsIn(first)).toBe(144);
    expect(rowsIn(second)).toBe(144);
    expect(first).not.toEqual(second);
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
