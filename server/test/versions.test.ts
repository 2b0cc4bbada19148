import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Schemas } from './world/schemas.js';
import { courseWithTable, releasedExercise } from './world/class.js';
import { startWorld, until, type World } from './world/world.js';
import { Visitor } from './world/visitor.js';

type Detail = Schemas['DataSetDetail'];

const tableOf = (rows: number, first = 0): string =>
  `id,x,lost\n${Array.from({ length: rows }, (_, i) => `r${first + i},${(i * 7) % 13},${i % 3 === 0 ? 1 : 0}`).join('\n')}\n`;
const ROLES = { target: 'lost', task: 'binary', positive: '1', identifier: 'id', withheld: [] };
const SPLIT = {
  kind: 'draw',
  values: { sized: 'percent', training: 60, validation: 0, heldout: 40, stratify: '', group: '', seed: 5 },
};
const STEPS = [{ kind: 'drop-columns', values: { columns: ['x'] } }];

let world: World;
let ada: Visitor;
let course: string;
let dataSet: string;

const at = async (address: string): Promise<Detail> => (await ada.call<Detail>('GET', address)).body;
const kept = (address: string) =>
  ada.call<{ id: string; title?: string }>('POST', `${address}/splits`, SPLIT);

beforeAll(async () => {
  world = await startWorld();
  ada = await new Visitor(world.address).signUp('Ada Instructor');
  ({ course, dataSet } = await courseWithTable(ada, 'hives.csv', tableOf(30)));
  await ada.call('PUT', `${dataSet}/roles`, ROLES);
  await ada.upload(`${dataSet}/raw`, 'wrong.csv', tableOf(12, 100));
  await until(
    () => at(dataSet),
    ({ version }) => version === 2,
  );
});
afterAll(() => world.stop());

describe('an earlier version', () => {
  it('is opened at its own address, and looked at, split and prepared there', async () => {
    const first = await at(`${dataSet}.1`);
    expect(first).toMatchObject({
      version: 1,
      current: 2,
      rows: 30,
      roles: { target: 'lost' },
      raw: { number: 1 },
    });
    expect(`${course}/data-sets/${first.address}`).toBe(`${dataSet}.1`);
    const { body: rows } = await ada.call<Schemas['RowPage']>('GET', `${dataSet}.1/rows?limit=1`);
    expect([rows.total, rows.rows[0]?.[0]]).toEqual([30, 'r0']);
    const { body: preview } = await ada.call<Schemas['PrepareAnswer']>(
      'POST',
      `${dataSet}.1/prepare-preview`,
      {
        steps: STEPS,
        chosen: null,
      },
    );
    expect(preview.rows).toBe(30);
    expect((await kept(`${dataSet}.1`)).status).toBe(201);
    expect(
      (await at(`${dataSet}.1`)).splits.map(({ consequences }) => consequences.parts.at(-1)?.rows),
    ).toEqual([12]);
    expect((await at(dataSet)).splits).toEqual([]);
    // The current version has no target yet.
    expect((await kept(dataSet)).body.title).toMatch(/Mark the target/);
  });

  it('is made current again, and steps are done on the table that it was made of', async () => {
    expect((await ada.call('PUT', `${dataSet}/current`, { version: 1 })).status).toBe(204);
    expect(await at(dataSet)).toMatchObject({
      version: 1,
      current: 1,
      rows: 30,
      raw: { number: 1, rows: 30 },
    });
    const { body: list } = await ada.call<Schemas['DataSetList']>('GET', `${course}/data-sets`);
    expect(list.dataSets[0]).toMatchObject({ rows: 30, target: 'lost', splits: 1 });
    await ada.call('POST', `${dataSet}/versions`, { steps: STEPS });
    const made = await until(
      () => at(dataSet),
      ({ version }) => version === 3,
    );
    // What is made is what work goes on with.
    expect(made).toMatchObject({ current: 3, rows: 30, raw: { number: 1 }, roles: { target: 'lost' } });
  });

  it('takes further rows where it is current, not the table that was made last', async () => {
    await ada.call('PUT', `${dataSet}/current`, { version: 1 });
    await ada.upload(`${dataSet}/raw?how=append`, 'more.csv', tableOf(5, 500));
    expect(
      await until(
        () => at(dataSet),
        ({ version }) => version === 4,
      ),
    ).toMatchObject({ rows: 35 });
  });

  it('is not found where there is none, nor by a number that is none', async () => {
    for (const address of [`${dataSet}.9`, `${dataSet}.0`, `${dataSet}.1.1`, `${dataSet}.x`])
      expect([address, (await ada.call('GET', address)).status]).toEqual([address, 404]);
    expect((await ada.call('PUT', `${dataSet}/current`, { version: 9 })).status).toBe(404);
    expect((await ada.call('PUT', `${dataSet}/current`, { version: 1e12 })).status).toBe(400);
  });
});

describe('a raw table that was wrong', () => {
  it('is taken back with what was made of it, and the version before is current', async () => {
    await ada.upload(`${dataSet}/raw`, 'wrong.csv', tableOf(9, 900));
    await until(
      () => at(dataSet),
      ({ version }) => version === 5,
    );
    await ada.call('PUT', `${dataSet}/roles`, ROLES);
    await ada.call('POST', `${dataSet}/versions`, { steps: STEPS });
    const made = await until(
      () => at(dataSet),
      ({ version }) => version === 6,
    );
    await ada.call('POST', `${dataSet}.5/splits`, SPLIT);
    expect(made.versions.find(({ number }) => number === 5)?.removal).toMatchObject({
      versions: 2,
      usedBy: [],
    });
    const { versions } = await at(`${dataSet}.5`);
    expect(versions.find(({ number }) => number === 5)?.removal).toMatchObject({ versions: 2, splits: 1 });
    expect((await ada.call('DELETE', `${dataSet}/versions/5`)).status).toBe(204);
    const left = await at(dataSet);
    expect([left.version, left.versions.map(({ number }) => number)]).toEqual([4, [4, 3, 2, 1]]);
    expect((await ada.call('DELETE', `${dataSet}/versions/5`)).status).toBe(404);
  });

  it('stays where nothing else would be left', async () => {
    const { dataSet: lone } = await courseWithTable(ada, 'lone.csv', tableOf(20));
    const refused = await ada.call('DELETE', `${lone}/versions/1`);
    expect([refused.status, refused.body.title]).toEqual([
      409,
      'No other version would be left. Delete the data set instead.',
    ]);
    expect((await at(lone)).rows).toBe(20);
  });
});

describe('names', () => {
  it('of data sets, splits, folds and runs are changed; only a data set needs one', async () => {
    await ada.call('PUT', `${dataSet}/current`, { version: 1 });
    expect((await ada.call('PATCH', dataSet, { name: '  Hives of 2026 ' })).status).toBe(204);
    expect((await ada.call('PATCH', dataSet, { name: ' ' })).body.title).toBe('Give a name.');
    const [split] = (await at(dataSet)).splits;
    await ada.call('PATCH', `${dataSet}/splits/${split?.id ?? ''}`, { name: 'Main split' });
    const folds = {
      plan: { kind: 'draw', values: { k: 4, stratify: '', group: '', repeats: 1, seed: 3 } },
      splitId: split?.id ?? null,
    };
    const { body: set } = await ada.call<{ id: string }>('POST', `${dataSet}/fold-sets`, folds);
    await ada.call('PATCH', `${dataSet}/fold-sets/${set.id}`, { name: 'Four' });
    const plan = {
      model: { kind: 'most-frequent', values: {} },
      features: ['x'],
      vary: [],
      metric: 'accuracy',
      choose: 'best',
      seed: 1,
    };
    const { body: run } = await ada.call<{ id: string }>('POST', `${dataSet}/trials`, {
      foldSetId: set.id,
      plan,
    });
    expect((await ada.call('PATCH', `${dataSet}/trials/${run.id}`, { name: 'Guessing' })).status).toBe(204);
    expect(await at(dataSet)).toMatchObject({
      name: 'Hives of 2026',
      splits: [{ name: 'Main split' }],
      foldSets: [{ name: 'Four' }],
    });
    const { body: runs } = await ada.call<Schemas['TrialInfo'][]>('GET', `${dataSet}/trials`);
    expect(runs.map(({ name }) => name)).toEqual(['Guessing']);
    await ada.call('PATCH', `${dataSet}/splits/${split?.id ?? ''}`, { name: '' });
    expect((await at(dataSet)).splits[0]?.name).toBe('');
  });

  it('are nobody else’s to change', async () => {
    const eve = await new Visitor(world.address).signUp('Eve Elsewhere');
    const { dataSet: own } = await courseWithTable(eve, 'own.csv', tableOf(20));
    const [split] = (await at(dataSet)).splits;
    const [foldSet] = (await at(dataSet)).foldSets;
    for (const path of [`${own}/splits/${split?.id ?? ''}`, `${own}/fold-sets/${foldSet?.id ?? ''}`]) {
      expect((await eve.call('PATCH', path, { name: 'mine' })).status).toBe(404);
      expect((await eve.call('DELETE', path)).status).toBe(404);
    }
    const elsewhere = own.replace(/data-sets\/.*/, dataSet.replace(/.*(data-sets)/, '$1'));
    expect((await eve.call('DELETE', elsewhere)).status).toBe(404);
    expect((await eve.call('DELETE', dataSet)).status).toBe(404);
    expect((await at(dataSet)).splits).toHaveLength(1);
  });
});

describe('what nothing uses', () => {
  it('is deleted with what was made of it, which is said before', async () => {
    await until(
      () => ada.call<Schemas['TrialInfo'][]>('GET', `${dataSet}/trials`),
      ({ body }) => body.every(({ state }) => state === 'done'),
    );
    const [split] = (await at(dataSet)).splits;
    expect(split?.removal).toEqual({ versions: 0, splits: 1, folds: 1, runs: 1, usedBy: [], isLast: false });
    expect((await ada.call('DELETE', `${dataSet}/splits/${split?.id ?? ''}`)).status).toBe(204);
    expect(await at(dataSet)).toMatchObject({ splits: [], foldSets: [] });
    expect((await ada.call<unknown[]>('GET', `${dataSet}/trials`)).body).toEqual([]);
    expect((await ada.call('DELETE', dataSet)).status).toBe(204);
    expect((await ada.call('GET', dataSet)).status).toBe(404);
    const { body: trail } = await ada.call<Schemas['AuditPage']>('GET', `${course}/audit`);
    expect(trail.events.map(({ text, subject }) => `${text} ${subject}`)).toContain(
      'deleted the data set Hives of 2026',
    );
  });

  it('is not what an exercise uses, nor what was once released: its held-out rows stay held out', async () => {
    const { instructor, path, course: theirs, settings } = await releasedExercise(world);
    const { body: list } = await instructor.call<Schemas['DataSetList']>('GET', `${theirs}/data-sets`);
    const used = `${theirs}/data-sets/${list.dataSets[0]?.id ?? ''}`;
    const { body } = await instructor.call<Detail>('GET', used);
    const attempts = [used, `${used}/splits/${body.splits[0]?.id ?? ''}`];
    for (const one of attempts) {
      const refused = await instructor.call('DELETE', one);
      expect([refused.status, refused.body.title]).toEqual([409, 'It is used by the exercise “Predict y”.']);
    }
    // Withdrawn and set on another split, it leaves the first one to its release alone.
    const { body: other } = await instructor.call<{ id: string }>('POST', `${used}/splits`, {
      kind: 'reserve',
      values: { validation: 0, stratify: '', group: '', seed: 4 },
    });
    await instructor.call('POST', `${path}/withdraw`);
    expect((await instructor.call('PUT', path, { ...settings, splitId: other.id })).status).toBeLessThan(300);
    expect((await instructor.call('DELETE', attempts[1] ?? '')).body.title).toBe(
      'It is used by the release of “Predict y”.',
    );
    await instructor.call('DELETE', path);
    expect((await instructor.call('GET', path)).status).toBe(404);
    for (const one of attempts)
      expect((await instructor.call('DELETE', one)).body.title).toBe(
        'It is used by the release of “Predict y”.',
      );
    expect((await instructor.call<Detail>('GET', used)).body.reserve).not.toBeNull();
  });
});
