import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { modelOf } from '@modest-sieve/core/models';
import type { Schemas } from './world/schemas.js';
import { startWorld, type World } from './world/world.js';
import { plan, tableForTrials } from './world/trial-table.js';

let world: World;
let id: string;
let at: Awaited<ReturnType<typeof tableForTrials>>;
beforeAll(async () => {
  world = await startWorld();
  at = await tableForTrials(world);
  id = (await at.tried(plan(modelOf('tree', { depth: 3 })))).id;
});
afterAll(() => world.stop());

describe('the features of a run', () => {
  const importance = (metric: string) =>
    at.ada.call<Schemas['ColumnImportance'][]>('POST', `${at.dataSet}/trials/${id}/importance`, { metric });
  const dependence = (columns: string[], label: string | null = null) =>
    at.ada.call<Schemas['ColumnDependence']>('POST', `${at.dataSet}/trials/${id}/dependence`, {
      columns,
      label,
    });

  it('are weighed by shuffling them over the folds, by a metric of the task', async () => {
    const { status, body } = await importance('accuracy');
    expect(status).toBe(200);
    expect(body.map(({ column }) => column)).toEqual(plan(modelOf('tree')).features);
    const [most] = [...body].sort((a, b) => (b.mean ?? 0) - (a.mean ?? 0));
    expect(most?.column).toBe('weight');
    expect(most?.mean).toBeGreaterThan(0.1);
    expect((await importance('accuracy')).body).toEqual(body);
    expect(await importance('rmse')).toMatchObject({
      status: 422,
      body: { code: 'trial', place: { field: 'metric' } },
    });
  });

  it('are followed one by one, and two as a map; what cannot be followed is named', async () => {
    const [first = '', second = ''] = plan(modelOf('tree')).features;
    const { body: one } = await dependence([first]);
    expect(one).toMatchObject({ label: 'yes', rowCount: 144 });
    expect(one.mean).toHaveLength(one.axes[0]?.values.length ?? 0);
    expect(one.rows).toHaveLength(40);
    const { body: both } = await dependence([first, second], 'no');
    const [down, across] = both.axes.map(({ values }) => values.length);
    expect(both.mean).toHaveLength((down ?? 0) * (across ?? 0));
    expect(await dependence(['wintered'])).toMatchObject({ status: 422, body: { code: 'dependence' } });
    expect(await dependence([first, first])).toMatchObject({
      status: 422,
      body: { place: { field: 'second' } },
    });
    expect((await dependence([])).status).toBe(400);
    expect((await dependence([first, second, 'x'])).status).toBe(400);
  });

  it('are screened one by one, and the model is judged after screening inside and outside the folds', async () => {
    const screening = (more: object = {}) =>
      at.ada.call<Schemas['ColumnScreening']>('POST', `${at.dataSet}/trials/${id}/screening`, {
        by: 'chi-square',
        keep: 1,
        metric: 'accuracy',
        ...more,
      });
    const { status, body } = await screening();
    expect(status).toBe(200);
    expect(body.columns.map(({ column }) => column)[0]).toBe('weight');
    expect(body.columns[0]?.q).toBeLessThan(0.001);
    expect(body.columns[0]?.statistic).toBeGreaterThan(body.columns[0]?.shuffled ?? Infinity);
    expect(body.leak.kept).toEqual([{ column: 'weight', folds: 4 }]);
    expect(body.leak.inside).toEqual(body.leak.outside);
    expect(body.leak.inside.mean).toBeGreaterThan(0.7);
    // Held-out rows take no part: columns by the 144 training rows, the same as asked again.
    expect((await screening()).body).toEqual(body);
    expect((await screening({ by: 'luck' })).status).toBe(400);
    expect((await screening({ keep: 0 })).status).toBe(400);
    expect(await screening({ metric: 'rmse' })).toMatchObject({
      status: 422,
      body: { place: { field: 'metric' } },
    });
  });

  it('are chosen step by step inside the folds, beside what choosing outside pretends', async () => {
    const selection = (more: object = {}) =>
      at.ada.call<Schemas['FeatureSelection']>('POST', `${at.dataSet}/trials/${id}/selection`, {
        way: 'forward',
        most: 2,
        metric: 'accuracy',
        ...more,
      });
    const { status, body } = await selection();
    expect(status).toBe(200);
    expect(body.steps.map(({ count }) => count)).toEqual([1, 2]);
    expect(body.steps[0]?.features).toEqual(['weight']);
    expect(body.steps[0]?.inside).toEqual(body.steps[0]?.outside);
    expect(body.simplest).toBe(1);
    expect((await selection()).body).toEqual(body);
    const { body: back } = await selection({ way: 'backward' });
    expect(back.steps[0]?.features).toEqual(['weight']);
    expect((await selection({ way: 'sideways' })).status).toBe(400);
    expect(await selection({ metric: 'rmse' })).toMatchObject({ status: 422 });
  });

  it('are screened before the model where the run says so, and its views go on with what is kept', async () => {
    const screening = { by: 'chi-square', keep: 1 } as const;
    const asked = plan(modelOf('tree', { depth: 3 }), { screening });
    const run = await at.tried(asked);
    expect(run.state).toBe('done');
    expect(run.plan.screening).toEqual(screening);
    expect(run.model?.features.map(({ name }) => name)).toEqual(['weight']);
    // Asked for again it is the same run, and without a screening another one.
    expect((await at.tried(asked)).id).toBe(run.id);
    expect(run.id).not.toBe(id);
    const of = (path: string, body: object) =>
      at.ada.call('POST', `${at.dataSet}/trials/${run.id}/${path}`, body);
    const { body: weighed } = await of('importance', { metric: 'accuracy' });
    const losses = (weighed as Schemas['ColumnImportance'][]).map(({ column, mean }) => [column, mean !== 0]);
    expect(losses).toEqual([
      ['weight', true],
      ['mites', false],
      ['forage', false],
    ]);
    // The view of a screening looks at every feature, also at those that this one leaves out.
    const { body: view } = await of('screening', { by: 'chi-square', keep: 2, metric: 'accuracy' });
    expect((view as Schemas['ColumnScreening']).columns).toHaveLength(3);
    expect((await of('case', { cells: { weight: '90' } })).status).toBe(200);
    const { text: starter } = await at.ada.call('GET', `${at.dataSet}/trials/${run.id}/starter/script`);
    expect(starter).toContain('numbers = ["weight"]');
    expect(starter).toContain('kept by a screening of all training rows');
  });

  it.each([
    [{ by: 'chi-square', keep: 4 }, 422],
    [{ by: 'luck', keep: 1 }, 400],
    [{ by: 'anova', keep: 1, share: 2 }, 400],
    ['anova', 400],
  ])('are not screened by %j', async (screening, status) => {
    const asked = { ...plan(modelOf('tree')), screening };
    expect((await at.start(asked)).status).toBe(status);
  });
});
