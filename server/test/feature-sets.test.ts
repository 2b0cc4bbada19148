import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Schemas } from './world/schemas.js';
import { tableForTrials } from './world/trial-table.js';
import { startWorld, type World } from './world/world.js';

let world: World;
let at: Awaited<ReturnType<typeof tableForTrials>>;
beforeAll(async () => {
  world = await startWorld();
  at = await tableForTrials(world);
});
afterAll(() => world.stop());

const sets = async () =>
  (await at.ada.call<Schemas['FeatureSetInfo'][]>('GET', `${at.dataSet}/feature-sets`)).body;
const save = (body: object) => at.ada.call('PUT', `${at.dataSet}/feature-sets`, body);

describe('features that are saved by name', () => {
  it('are listed in the order in which they were first saved; the same name replaces', async () => {
    expect(await sets()).toEqual([]);
    expect((await save({ name: ' hive ', features: ['hive'] })).status).toBe(204);
    await save({ name: 'numbers', features: ['weight', 'mites'] });
    await save({ name: 'hive', features: ['hive', 'forage'] });
    expect((await sets()).map(({ name, features }) => [name, features])).toEqual([
      ['hive', ['hive', 'forage']],
      ['numbers', ['weight', 'mites']],
    ]);
  });

  it('saved twice at once under one name are one', async () => {
    const both = await Promise.all(
      [['weight'], ['mites']].map((features) => save({ name: 'one', features })),
    );
    expect(both.map(({ status }) => status)).toEqual([204, 204]);
    expect((await sets()).filter(({ name }) => name === 'one')).toHaveLength(1);
  });

  it('need a name, and a feature, none of them twice', async () => {
    expect(await save({ name: ' ', features: ['weight'] })).toMatchObject({ status: 400 });
    expect(await save({ name: 'none', features: [] })).toMatchObject({ status: 400 });
    expect(await save({ name: 'twice', features: ['weight', 'weight'] })).toMatchObject({
      status: 422,
      body: { place: { field: 'features' } },
    });
    expect((await sets()).map(({ name }) => name)).toEqual(['hive', 'numbers', 'one']);
  });

  it('are at most fifty of a data set', async () => {
    for (let i = 3; i < 50; i++) await save({ name: `set ${i}`, features: ['weight'] });
    expect(await save({ name: 'one more', features: ['weight'] })).toMatchObject({
      status: 422,
      body: { place: { field: 'name' } },
    });
    expect(await sets()).toHaveLength(50);
    expect((await save({ name: 'set 3', features: ['mites'] })).status).toBe(204);
  });

  it('are deleted one by one, of their own data set alone', async () => {
    const other = await tableForTrials(world);
    const [first] = await sets();
    expect((await other.ada.call('DELETE', `${other.dataSet}/feature-sets/${first?.id}`)).status).toBe(404);
    expect((await at.ada.call('DELETE', `${at.dataSet}/feature-sets/${first?.id}`)).status).toBe(204);
    expect((await at.ada.call('DELETE', `${at.dataSet}/feature-sets/${first?.id}`)).status).toBe(404);
    expect(await sets()).toHaveLength(49);
  });
});
