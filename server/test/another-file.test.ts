import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { strToU8, zipSync } from 'fflate';
import type { Schemas } from './world/schemas.js';
import { startWorld, until, type World } from './world/world.js';
import { DAYS, tableOfHives } from './world/hives.js';

type Detail = Schemas['DataSetDetail'];
type At = Awaited<ReturnType<typeof tableOfHives>>;

let world: World;
let ada: At['ada'];
let course: At['course'];
let dataSet: At['dataSet'];
let detail: At['detail'];
beforeAll(async () => {
  world = await startWorld();
  ({ ada, course, dataSet, detail } = await tableOfHives(world));
});
afterAll(() => world.stop());

describe('another file', () => {
  const failed = async () => {
    const { body } = await until(
      () => ada.call<Schemas['DataSetList']>('GET', `${course}/data-sets`),
      (answer) => answer.body.imports.some(({ state }) => state === 'failed'),
    );
    return body.imports[0];
  };
  const untilVersion = async (version: number) => {
    const { body } = await until(
      () => ada.call<Detail>('GET', dataSet),
      (answer) => answer.body.version === version,
    );
    return body;
  };

  it('with several tables asks which one is meant, and keeps the file until it is told', async () => {
    const resources = ['hives', 'sites'].map((name) => ({ name, path: `${name}.csv` }));
    const zip = zipSync({
      'datapackage.json': strToU8(JSON.stringify({ resources })),
      'hives.csv': strToU8('hive,kind\nA,log\n'),
      'sites.csv': strToU8('site,height\nx,3\ny,4\n'),
    });
    await ada.upload(`${course}/data-sets`, 'sites.zip', Buffer.from(zip));
    const asked = await failed();
    expect(asked?.problem).toMatchObject({ code: 'choose-sheet', choices: ['hives', 'sites'] });
    const path = `${course}/data-sets/imports/${asked?.id ?? ''}`;
    expect((await ada.call('POST', path, { sheet: 'queens' })).status).toBe(422);
    expect((await ada.call('POST', path, { sheet: 'sites' })).status).toBe(202);
    const { body } = await until(
      () => ada.call<Schemas['DataSetList']>('GET', `${course}/data-sets`),
      (answer) => answer.body.dataSets.length === 2,
    );
    expect(body.dataSets[1]).toMatchObject({ name: 'Sites', rows: 2 });
    expect(body.imports).toEqual([]);
  });

  it('comes below the rows, or beside the columns by a key', async () => {
    const more = 'id,day,hive,weight,sure,lost\nz1,2026-05-01,A,3,1,no\n';
    await ada.upload(`${dataSet}/raw?how=append`, 'more.csv', more);
    expect((await untilVersion(2)).rows).toBe(DAYS + 1);
    await ada.upload(`${dataSet}/raw?how=join&key=hive`, 'sites.csv', 'hive,height\nA,300\nB,20\n');
    const { profile, rows } = await untilVersion(3);
    expect(rows).toBe(DAYS + 1);
    // Hives A and B stand in 9 rows each of the 60, and A in the one that came below them.
    expect(profile.at(-1)).toMatchObject({ name: 'height', missing: DAYS + 1 - 19 });
    expect((await ada.upload(`${dataSet}/raw?how=join`, 'x.csv', 'a\n1\n')).status).toBe(400);
    expect((await ada.upload(`${dataSet}/raw?how=mix`, 'x.csv', 'a\n1\n')).status).toBe(400);
  });

  it('and another at the same moment both come below: neither is lost', async () => {
    const rows = (id: string) => `id,day,hive,weight,sure,lost\n${id},2026-06-01,B,4,1,no\n`;
    const before = (await detail()).rows;
    await Promise.all(
      ['y1', 'y2', 'y3'].map((id) => ada.upload(`${dataSet}/raw?how=append`, `${id}.csv`, rows(id))),
    );
    expect((await untilVersion(6)).rows).toBe(before + 3);
  });

  it('that does not fit says why, and leaves the table as it was', async () => {
    await ada.upload(`${dataSet}/raw?how=join&key=hive`, 'twice.csv', 'hive,x\nA,1\nA,2\n');
    const item = await failed();
    expect(item?.intoId).toBe(dataSet.split('/').at(-1));
    expect(item?.problem?.message).toBe(
      'The file has hive “A” in rows 1 and 2: it does not say which of them belongs to a row of the table.',
    );
    expect((await detail()).version).toBe(6);
  });
});
