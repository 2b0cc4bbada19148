import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Plan } from '@modest-sieve/core/data';
import { strFromU8, unzipSync } from 'fflate';
import type { Schemas } from './world/schemas.js';
import { releasedExercise, settingsOf } from './world/class.js';
import { startWorld, until, type World } from './world/world.js';
import { DAYS, ROLES, tableOfHives } from './world/hives.js';

type Detail = Schemas['DataSetDetail'];
type At = Awaited<ReturnType<typeof tableOfHives>>;

let world: World;
let ada: At['ada'];
let course: At['course'];
let dataSet: At['dataSet'];
let detail: At['detail'];
const planned = (kind: string, values: Plan['values']): Plan => ({ kind, values });
const SHARES = { sized: 'percent', training: 60, validation: 0, heldout: 40 };
const drawn = planned('draw', { ...SHARES, stratify: 'lost', group: '', seed: 5 });
const dealt = planned('draw', { k: 4, stratify: 'lost', group: '', repeats: 2, seed: 1 });
beforeAll(async () => {
  world = await startWorld();
  ({ ada, course, dataSet, detail } = await tableOfHives(world));
});
afterAll(() => world.stop());

describe('columns', () => {
  it('have roles of time and weight, which must fit', async () => {
    expect((await detail()).roles).toMatchObject({ time: 'day', weight: 'sure' });
    const { status, body } = await ada.call('PUT', `${dataSet}/roles`, {
      ...ROLES,
      time: 'hive',
      group: null,
    });
    expect(status).toBe(422);
    expect(body).toMatchObject({ title: expect.stringContaining('hive holds neither dates nor numbers') });
  });

  it('are described in words; empty words are none, and unknown columns are refused', async () => {
    const put = (descriptions: unknown) => ada.call('PATCH', `${dataSet}/descriptions`, { descriptions });
    expect((await put({ weight: ' in kilograms ', hive: '' })).status).toBe(204);
    expect((await detail()).descriptions).toEqual({ weight: 'in kilograms' });
    expect(await put({ wieght: 'x' })).toMatchObject({ status: 422, body: { code: 'no-such-column' } });
    expect((await put({ weight: 3 })).status).toBe(400);
    await Promise.all([put({ hive: 'Letter on the hive' }), put({ sure: 'How sure the keeper was' })]);
    expect((await detail()).descriptions).toEqual({
      weight: 'in kilograms',
      hive: 'Letter on the hive',
      sure: 'How sure the keeper was',
    });
    await put({ hive: '', sure: '' });
    expect((await detail()).descriptions).toEqual({ weight: 'in kilograms' });
  });
});

describe('a look', () => {
  it('at two columns gives what fits their kinds, and refuses a column that is not there', async () => {
    const pair = (x: string, y: string) =>
      ada.call<Schemas['ColumnPair']>('GET', `${dataSet}/pair?x=${x}&y=${y}`);
    expect((await pair('weight', 'sure')).body.shown).toMatchObject({
      kind: 'points',
      labels: ['no', 'yes'],
    });
    expect((await pair('weight', 'hive')).body.shown).toMatchObject({ kind: 'boxes', category: 'hive' });
    const { body } = await pair('lost', 'hive');
    expect(body.rows).toBe(DAYS);
    expect(body.shown).toMatchObject({
      kind: 'cross',
      x: ['no', 'yes'],
      y: ['A', 'B', 'C', 'D', 'E', 'F', 'G'],
    });
    expect(await pair('weight', 'wieght')).toMatchObject({ status: 422, body: { code: 'no-such-column' } });
  });

  it('at correlations and at the target along each distribution', async () => {
    const { body } = await ada.call<Schemas['Correlations']>('GET', `${dataSet}/correlations`);
    expect([...body.columns].sort()).toEqual(['sure', 'weight']);
    expect(body.values[0]?.[0]).toBeCloseTo(1, 12);
    const { body: found } = await ada.call<Schemas['TableFindings']>('GET', `${dataSet}/findings`);
    expect(found.along?.label).toBe('yes');
    expect(found.along?.bars.map(({ column }) => column)).toEqual(['day', 'hive', 'weight', 'sure']);
  });
});

describe('a split', () => {
  const preview = (plan: Plan) =>
    ada.call<Schemas['DataSetDetail']['splits'][number]['consequences']>(
      'POST',
      `${dataSet}/split-preview`,
      plan,
    );

  it('in order of time holds out the latest rows, and says that a gap leaves some out', async () => {
    const { body } = await preview(planned('time', { ...SHARES, time: 'day', gap: 3 }));
    expect(body.parts.map(({ name, rows }) => [name, rows])).toEqual([
      ['training', 33],
      ['heldout', 24],
    ]);
    expect(body.leftOut).toBe(3);
    expect(body.checks.find(({ id }) => id === 'time')?.outcome).toBe('holds');
  });

  it('at random is told that time overlaps', async () => {
    const { body } = await preview(drawn);
    expect(body.checks.find(({ id }) => id === 'time')?.outcome).toBe('fails');
    expect(body.drift.map(({ column }) => column)).not.toContain('sure');
  });

  it.each([
    [planned('nothing', {}), 'There is no way of splitting “nothing”.'],
    [planned('draw', { ...drawn.values, heldout: 30 }), 'The shares make 90 %, not 100 %.'],
    [planned('draw', { ...drawn.values, seed: 'x' }), 'seed: a number is needed.'],
    [planned('every', { every: 1 }), 'n is at least 2.'],
    [planned('column', { column: 'hive', heldout: [], validation: [] }), 'Give values that are held out.'],
  ])('%j is refused with the reason', async (plan, title) => {
    const { status, body } = await preview(plan);
    expect({ status, body }).toMatchObject({ status: 422, body: { title } });
  });

  it('is drawn twenty times for its record; one without luck has none', async () => {
    const record = (plan: Plan) => ada.call<Schemas['SplitDraws']>('POST', `${dataSet}/split-record`, plan);
    const { body } = await record(drawn);
    expect(body.label).toBe('yes');
    expect(body.draws).toHaveLength(20);
    expect(new Set(body.draws.map(({ drift }) => drift?.value)).size).toBeGreaterThan(10);
    expect(await record(planned('every', { every: 4 }))).toMatchObject({
      status: 422,
      body: { code: 'not-drawn' },
    });
  });
});

describe('folds', () => {
  it('of a split deal its training rows, are kept, and go out as a table and in a pack', async () => {
    const { body: split } = await ada.call<{ id: string }>('POST', `${dataSet}/splits`, drawn);
    const request = { plan: dealt, splitId: split.id };
    const { body: seen } = await ada.call<Schemas['FoldAnswer']>('POST', `${dataSet}/fold-preview`, request);
    expect([seen.rows, seen.count, seen.repeats, seen.smallest]).toEqual([36, 4, 2, 9]);
    const { body: made } = await ada.call<{ id: string }>('POST', `${dataSet}/fold-sets`, request);
    expect((await detail()).foldSets[0]).toMatchObject({
      id: made.id,
      splitId: split.id,
      folds: 4,
      rows: 36,
    });

    const { text: csv } = await ada.call('GET', `${dataSet}/fold-sets/${made.id}`);
    const [header, ...lines] = csv.trim().split('\n');
    expect(header).toBe('id,repeat,fold');
    expect(lines).toHaveLength(72);
    for (const fold of [1, 2, 3, 4])
      expect(lines.filter((line) => line.endsWith(`,1,${fold}`))).toHaveLength(9);

    const settings = { ...settingsOf(split.id), foldSetId: made.id };
    const { body: exercise } = await ada.call<{ id: string }>('POST', `${course}/exercises`, settings);
    const path = `${course}/exercises/${exercise.id}`;
    await ada.call('POST', `${path}/release`);
    await until(
      () => ada.call<Schemas['ExerciseDetail']>('GET', path),
      ({ body }) => body.state !== 'packing',
    );
    expect((await ada.call<Schemas['ExerciseDetail']>('GET', path)).body.problem).toBeNull();
    const { text: zip } = await ada.call('GET', `${path}/pack`);
    const files = unzipSync(Buffer.from(zip, 'latin1'));
    const text = (name: string) => strFromU8(files[name] ?? new Uint8Array());
    // In the order of the training rows, which says nothing.
    expect(text('folds.csv').split('\n').sort()).toEqual(csv.split('\n').sort());
    expect(text('columns.csv')).toBe('column,meaning\nweight,in kilograms\n');
    // The weight is there to learn with, and no feature of the held-out rows.
    expect(text('training.csv').split('\n')[0]).toBe('id,day,hive,weight,sure,lost');
    expect(text('held-out.csv').split('\n')[0]).toBe('id,day,hive,weight');
    const heldout = text('held-out.csv')
      .split('\n')
      .slice(1, -1)
      .map((line) => line.split(',')[0]);
    expect(heldout.filter((id) => text('folds.csv').includes(`\n${id},`))).toEqual([]);
  });

  it('of all rows follow time, and cannot go into the pack of a split', async () => {
    const plan = planned('expanding', { k: 3, time: 'day', gap: 2 });
    const { body: seen } = await ada.call<Schemas['FoldAnswer']>('POST', `${dataSet}/fold-preview`, {
      plan,
      splitId: null,
    });
    expect(seen.folds.map(({ tested }) => tested)).toEqual([15, 15, 15]);
    expect(seen.folds[0]?.span?.training).toEqual([Date.UTC(2026, 0, 1), Date.UTC(2026, 0, 13)]);
    const { body: made } = await ada.call<{ id: string }>('POST', `${dataSet}/fold-sets`, {
      plan,
      splitId: null,
    });
    const [split] = (await detail()).splits;
    const reply = await ada.call('POST', `${course}/exercises`, {
      ...settingsOf(split?.id ?? ''),
      foldSetId: made.id,
    });
    expect(reply).toMatchObject({ status: 422, body: { code: 'no-such-folds' } });
  });

  it('of another data set, or of a split of another, are unknown', async () => {
    const other = await releasedExercise(world);
    const [theirs] = (await other.instructor.call<Detail>('GET', other.dataSet)).body.splits;
    const reply = await ada.call('POST', `${dataSet}/fold-preview`, { plan: dealt, splitId: theirs?.id });
    expect(reply).toMatchObject({ status: 422, body: { code: 'no-such-split' } });
    const { body: made } = await ada.call<{ id: string }>('POST', `${dataSet}/fold-sets`, {
      plan: dealt,
      splitId: null,
    });
    const reached = await other.instructor.call('GET', `${other.dataSet}/fold-sets/${made.id}`);
    expect(reached.status).toBe(404);
  });

  it('too many to be kept are refused', async () => {
    const plan = planned('draw', { ...dealt.values, repeats: 1001 });
    const reply = await ada.call('POST', `${dataSet}/fold-preview`, { plan, splitId: null });
    expect(reply).toMatchObject({ status: 422, body: { title: 'repeats is at most 1000.' } });
  });
});
