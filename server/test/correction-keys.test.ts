import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { modelOf } from '@modest-sieve/core/models';
import type { Schemas } from './world/schemas.js';
import { joinedStudent, releasedExercise } from './world/class.js';
import { startWorld, until, type World } from './world/world.js';
import { type Of, type At, settled, begin, apply } from './world/correcting.js';

let world: World;
beforeAll(async () => {
  world = await startWorld();
});
afterAll(() => world.stop());

describe('keys that depend on reference runs', () => {
  it('are marked as out of date when these are others, and computed again', async () => {
    const at = await releasedExercise(world, {}, undefined);
    const { instructor, dataSet, split } = at;
    const { body: folds } = await instructor.call<{ id: string }>('POST', `${dataSet}/fold-sets`, {
      plan: { kind: 'draw', values: { k: 3, stratify: 'y', group: '', repeats: 1, seed: 5 } },
      splitId: split.id,
    });
    const { body: trial } = await instructor.call<{ id: string }>('POST', `${dataSet}/trials`, {
      foldSetId: folds.id,
      plan: {
        model: modelOf('tree'),
        features: ['x'],
        vary: [{ key: 'depth', settings: [1, 2, 3] }],
        metric: 'accuracy',
        choose: 'simplest',
        weight: null,
        seed: 1,
      },
    });
    await until(
      () => instructor.call<Schemas['TrialDetail']>('GET', `${dataSet}/trials/${trial.id}`),
      ({ body }) => body.state === 'done',
    );
    const make = (isReference: boolean) =>
      instructor.call('PUT', `${dataSet}/trials/${trial.id}/reference`, { isReference });
    expect((await make(true)).status).toBe(204);
    const curve: Of<'curve'> = {
      id: 'curve',
      kind: 'curve',
      title: 'Curve',
      text: '',
      marks: 4,
      run: trial.id,
      values: {
        setting: 'depth',
        settings: ['1', '2', '3'],
        measure: 'score',
        rule: 'best',
        family: 'run',
        credit: 'each',
      },
    };
    const { body: made } = await instructor.call<{ id: string }>('POST', `${at.course}/exercises`, {
      ...at.settings,
      questions: [curve],
    });
    const own: At = { ...at, path: `${at.course}/exercises/${made.id}`, exerciseId: made.id };
    const detail = () => instructor.call<Schemas['ExerciseDetail']>('GET', own.path);
    await instructor.call('POST', `${own.path}/release`);
    const released = await until(detail, ({ body }) => body.state === 'released');
    expect(released.body.stale).toBe(false);

    await make(false);
    expect((await detail()).body.stale).toBe(true);
    const list = await instructor.call<Schemas['ExerciseSummary'][]>('GET', `${at.course}/exercises`);
    expect(list.body.map(({ id, stale }) => [id, stale])).toEqual(
      expect.arrayContaining([
        [made.id, true],
        [at.exerciseId, false],
      ]),
    );
    const { student } = await joinedStudent(world, own);
    expect((await student.call<Schemas['ExerciseDetail']>('GET', own.path)).body).toMatchObject({
      stale: false,
      correction: null,
    });
    // The run that the question names is no reference any more: the key cannot be computed, and nothing changes.
    await begin(own, [curve]);
    expect((await settled(own)).body).toMatchObject({ state: 'failed', problem: { code: 'no-curve' } });
    await begin(own, [{ ...curve, run: null, values: { ...curve.values, family: 'tree' } }]);
    expect((await settled(own)).body.state).toBe('ready');
    expect((await apply(own)).status).toBe(204);
    expect((await detail()).body.stale).toBe(false);
  });
});
