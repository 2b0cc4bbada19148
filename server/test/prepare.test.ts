import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Step } from '@modest-sieve/core/data';
import type { Schemas } from './world/schemas.js';
import { courseWithTable } from './world/class.js';
import { startWorld, until, type World } from './world/world.js';
import { Visitor } from './world/visitor.js';

type Detail = Schemas['DataSetDetail'];
type Preview = Schemas['PrepareAnswer'];

const RAW = `id,apiary,weight,fed,lost
h1,A,10,no,0
h2,A,,no feeder fitted,1
h3,B,12,yes,0
h3,B,12,yes,0
h4,B,9,no,
h5,A,14,yes,1
`;
const NEXT_YEAR = `id,apiary,weight,lost
k1,A,11,0
k2,B,,1
k3,B,9,
`;

const STEPS: Step[] = [
  { kind: 'drop-missing', values: { how: 'any', columns: ['lost'] } },
  { kind: 'drop-repeated', values: { columns: [] } },
  { kind: 'merge-values', values: { values: ['no feeder fitted'], column: 'fed', into: 'no' } },
  { kind: 'fill', values: { columns: ['weight'], how: 'median', value: '', group: '', indicator: 'no' } },
];

let world: World;
let ada: Visitor;
let course: string;
let dataSet: string;

const detail = async (): Promise<Detail> => (await ada.call<Detail>('GET', dataSet)).body;
const preview = (steps: Step[], chosen: number | null = null) =>
  ada.call<Preview>('POST', `${dataSet}/prepare-preview`, { steps, chosen });

beforeAll(async () => {
  world = await startWorld();
  ada = await new Visitor(world.address).signUp('Ada Instructor');
  ({ course, dataSet } = await courseWithTable(ada, 'hives.csv', RAW));
  await ada.call('PUT', `${dataSet}/roles`, {
    target: 'lost',
    task: 'binary',
    positive: '1',
    identifier: 'id',
    group: 'apiary',
    withheld: ['fed'],
  });
});
afterAll(() => world.stop());

describe('steps that are tried', () => {
  it('say what each does, with examples of the chosen one, and keep nothing', async () => {
    const { status, body } = await preview(STEPS, 3);
    expect(status).toBe(200);
    expect(body.effects.map(({ fallen, changed }) => [fallen, changed.length])).toEqual([
      [1, 0],
      [1, 0],
      [0, 1],
      [0, 1],
    ]);
    expect(body.examples?.rows[0]).toMatchObject({ row: 2, fate: 'stays' });
    expect(body.examples?.rows[0]?.cells[0]).toEqual({ before: null, after: '12', there: 'both' });
    expect((await detail()).versions).toHaveLength(1);
  });

  it('say which of them does not fit, and why', async () => {
    const { body } = await preview([{ kind: 'drop-columns', values: { columns: ['wings'] } }]);
    expect(body.effects[0]?.problem).toEqual({ message: 'There is no column “wings”.', field: 'columns' });
  });

  it.each([
    [{ steps: 'none' }, 400],
    [{ steps: [{ kind: 7, values: {} }] }, 400],
    [{ steps: [{ kind: 'fill', values: 'all' }] }, 400],
    [{ steps: Array.from({ length: 201 }, () => ({ kind: 'shuffle', values: { seed: 1 } })) }, 400],
    [{ steps: [{ kind: 'fill', values: { __proto__: null, columns: 7 } }] }, 200],
  ])('are looked at before anything is done with them: %j', async (body, status) => {
    expect((await ada.call('POST', `${dataSet}/prepare-preview`, body)).status).toBe(status);
  });
});

describe('a look', () => {
  it('finds what is wrong with the rows, with the step that fixes it', async () => {
    const { body } = await ada.call<Schemas['TableFindings']>('GET', `${dataSet}/findings`);
    expect(body.findings[0]).toMatchObject({
      message: '1 row has no lost: it cannot be trained on or marked.',
      fix: { kind: 'drop-missing', values: { columns: ['lost'] } },
    });
    expect(body.findings.map(({ fix }) => fix?.kind)).toContain('drop-repeated');
    // By hand: h2 lacks its weight, h4 its label.
    expect(body.complete).toEqual([
      { without: null, rows: 4 },
      { without: 'weight', rows: 5 },
      { without: 'lost', rows: 6 },
    ]);
  });

  it('shows the rows for which a condition holds, in the order of a column', async () => {
    const rows = (query: string) => ada.call<Schemas['RowPage']>('GET', `${dataSet}/rows?${query}`);
    const { body } = await rows(
      `where=${encodeURIComponent('weight >= 10')}&sort=weight&way=descending&limit=2`,
    );
    expect(body).toMatchObject({ total: 4, numbers: [6, 3] });
    expect(body.rows.map(([id]) => id)).toEqual(['h5', 'h3']);
    expect((await rows('offset=2&limit=2')).body.numbers).toEqual([3, 4]);
    const wrong = await ada.call('GET', `${dataSet}/rows?where=wieght`);
    expect([wrong.status, wrong.body.title]).toEqual([
      422,
      'There is no column “wieght”; the nearest is “weight”.',
    ]);
  });

  it('tells the rate of the target by the values of a column', async () => {
    const { body } = await ada.call<Schemas['TargetByValue']>('GET', `${dataSet}/by-value?column=apiary`);
    expect(body.values.map(({ value, rows, figure }) => [value, rows, figure])).toEqual([
      ['A', 3, 2 / 3],
      ['B', 2, 0],
    ]);
    expect(body.more).toBe(0);
    const wrong = await ada.call('GET', `${dataSet}/by-value?column=wings`);
    expect([wrong.status, wrong.body.title]).toEqual([422, 'There is no column “wings”.']);
    expect((await ada.call('GET', `${dataSet}/by-value`)).status).toBe(400);
  });
});

describe('a version', () => {
  it('is made of the steps that are kept, with the roles of its columns, and the raw table stays', async () => {
    expect((await ada.call('POST', `${dataSet}/versions`, { steps: STEPS })).status).toBe(202);
    const made = await until(detail, ({ version }) => version === 2);
    expect(made).toMatchObject({
      rows: 4,
      raw: { number: 1, rows: 6 },
      preparation: null,
      roles: { target: 'lost', group: 'apiary', withheld: ['fed'] },
      steps: STEPS,
    });
    expect(made.versions.map(({ number, from, rows }) => [number, from, rows])).toEqual([
      [2, 1, 4],
      [1, null, 6],
    ]);
    const { body: rows } = await ada.call<Schemas['RowPage']>('GET', `${dataSet}/rows?limit=10`);
    expect(rows.rows).toEqual([
      ['h1', 'A', '10', 'no', '0'],
      ['h2', 'A', '12', 'no', '1'],
      ['h3', 'B', '12', 'yes', '0'],
      ['h5', 'A', '14', 'yes', '1'],
    ]);
    const { body: list } = await ada.call<Schemas['DataSetList']>('GET', `${course}/data-sets`);
    expect(list.dataSets.map(({ rows: n }) => n)).toEqual([4]);
  });

  it('is not made where a step does not fit: which one is said, and nothing is lost', async () => {
    const wrong = [...STEPS, { kind: 'drop-columns', values: { columns: ['wings'] } }];
    await ada.call('POST', `${dataSet}/versions`, { steps: wrong });
    const failed = await until(detail, ({ preparation }) => preparation?.state === 'failed');
    expect(failed.preparation?.problem?.message).toBe('Step 5, drop columns: There is no column “wings”.');
    expect(failed.preparation?.steps).toEqual(wrong);
    expect(failed.version).toBe(2);
  });

  it('is taken out as a file, as each version was', async () => {
    const raw = await ada.call('GET', `${dataSet}.1/table`);
    expect(raw.text).toBe(RAW);
    expect(raw.headers.get('content-disposition')).toContain('hives-1.csv');
    const made = await ada.call('GET', `${dataSet}/table?format=csv`);
    expect(made.text.split('\n')[2]).toBe('h2,A,12,no,1');
    expect((await ada.call('GET', `${dataSet}/table?format=parquet`)).text.slice(0, 4)).toBe('PAR1');
    const zipped = await ada.call('GET', `${dataSet}/table?format=zip`);
    expect(zipped.text).toContain('steps.json');
    expect((await ada.call('GET', `${dataSet}.9/table`)).status).toBe(404);
    expect((await ada.call('GET', `${dataSet}/table?format=exe`)).status).toBe(400);
  });

  it('is in the trail and among the jobs', async () => {
    const { body: trail } = await ada.call<Schemas['AuditPage']>('GET', `${course}/audit`);
    expect(trail.events.map(({ text, subject }) => `${text} ${subject}`)).toContain(
      'saved steps as a version of Hives',
    );
    const { body: jobs } = await ada.call<Schemas['JobInfo'][]>('GET', `${course}/jobs`);
    expect(jobs.filter(({ kind }) => kind === 'prepare').map(({ subject }) => subject)).toEqual([
      'Hives',
      'Hives',
    ]);
  });
});

describe('a new raw table', () => {
  it('becomes a version of the same data set, on which the same steps are done where they fit', async () => {
    expect((await ada.upload(`${dataSet}/raw`, 'next-year.csv', NEXT_YEAR)).status).toBe(202);
    const brought = await until(detail, ({ version }) => version === 3);
    expect(brought.raw).toEqual({ number: 3, rows: 3 });
    const { body } = await preview(STEPS);
    expect(body.effects.map(({ problem }) => problem?.message ?? null)).toEqual([
      null,
      null,
      'There is no column “fed”.',
      null,
    ]);
    const fitting = STEPS.filter(({ kind }) => kind !== 'merge-values');
    await ada.call('POST', `${dataSet}/versions`, { steps: fitting });
    const made = await until(detail, ({ version }) => version === 4);
    expect(made).toMatchObject({ rows: 2, roles: { target: 'lost', withheld: [] } });
    expect(made.versions[0]).toMatchObject({ number: 4, from: 3 });
  });

  it('may come in any format that is read', async () => {
    const json = JSON.stringify([
      { id: 'm1', apiary: 'A', weight: 3, lost: 1 },
      { id: 'm2', apiary: 'B', weight: 4, lost: 0 },
    ]);
    await ada.upload(`${dataSet}/raw`, 'later.json', json);
    const brought = await until(detail, ({ version }) => version === 5);
    expect(brought.raw).toEqual({ number: 5, rows: 2 });
    const parquet = await ada.call('GET', `${dataSet}/table?format=parquet`);
    await ada.upload(`${dataSet}/raw`, 'same.parquet', Uint8Array.from(Buffer.from(parquet.text, 'latin1')));
    await until(detail, ({ version }) => version === 6);
    expect((await ada.call('GET', `${dataSet}.6/table`)).text).toBe(
      (await ada.call('GET', `${dataSet}.5/table`)).text,
    );
  });

  it('is told to be the same table where it is', async () => {
    const json = JSON.stringify([{ id: 'm9', apiary: 'A', weight: 3, lost: 1 }]);
    const number = (await detail()).version;
    for (const next of [number + 1, number + 2]) {
      await ada.upload(`${dataSet}/raw`, 'again.json', json);
      await until(detail, ({ version }) => version === next);
    }
    const { versions } = await detail();
    expect(versions.slice(0, 2).map(({ sameAs }) => sameAs)).toEqual([number + 1, null]);
  });

  it('is not brought into a data set of another course', async () => {
    const other = await new Visitor(world.address).signUp('Otto Other');
    const { body } = await other.call<{ id: string }>('POST', '/courses', { name: 'Other', timeZone: 'UTC' });
    const foreign = dataSet.replace(course, `/courses/${body.id}`);
    expect((await other.upload(`${foreign}/raw`, 'x.csv', NEXT_YEAR)).status).toBe(404);
    expect((await other.call('POST', `${foreign}/versions`, { steps: [] })).status).toBe(404);
  });
});
