import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { strFromU8, unzipSync } from 'fflate';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, until, type World } from './world/world.js';
import {
  checkedReceipts,
  fileFor,
  hand,
  HOUR,
  expectTaken,
  joinedStudent,
  receiptsOf,
  releasedExercise,
  truthOf,
  usedBy,
} from './world/class.js';
import { Visitor } from './world/visitor.js';

let world: World;

beforeAll(async () => {
  world = await startWorld();
});

afterAll(() => world.stop());

describe('an open exercise', () => {
  it('is withdrawn while nothing was handed in, and only amended after that, with a note', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    expect((await at.instructor.call('POST', `${at.path}/withdraw`)).status).toBe(204);
    expect((await student.call('GET', at.path)).status).toBe(404);
    await at.instructor.call('POST', `${at.path}/release`);
    await until(
      () => student.call<Schemas['ExerciseDetail']>('GET', at.path),
      ({ status }) => status === 200,
    );
    await student.upload(`${at.path}/submissions`, 'mine.csv', fileFor(identifiers, truthOf));
    expect((await at.instructor.call('POST', `${at.path}/withdraw`)).body.code).toBe('handed-in');
    const { settings } = at;
    const amendment = {
      title: settings.title,
      brief: 'A better brief.',
      attempts: 5,
      deadline: settings.deadline,
      notice: 'There are five attempts now.',
    };
    expect(
      (await at.instructor.call('PUT', `${at.path}/amendment`, { ...amendment, notice: '' })).status,
    ).toBe(400);
    expect((await at.instructor.call('PUT', `${at.path}/amendment`, amendment)).status).toBe(204);
    const { body } = await student.call<Schemas['ExerciseDetail']>('GET', at.path);
    expect(body).toMatchObject({
      brief: 'A better brief.',
      attempts: 5,
      notice: 'There are five attempts now.',
    });
    const pack = await student.call('GET', `${at.path}/pack`);
    const files = unzipSync(Buffer.from(pack.text, 'latin1'));
    const brief = strFromU8(files['brief.md'] ?? new Uint8Array());
    for (const said of [
      'A better brief.',
      '5 attempts at each question',
      '### 1. Predict y (10 marks)',
      'accuracy',
    ])
      expect(brief).toContain(said);
    // What was checked meanwhile is checked once.
    expect(await checkedReceipts(student, at.path)).toHaveLength(1);
  });

  it('is unknown to students before it opens', async () => {
    const opensAt = new Date(Date.now() + HOUR / 2).toISOString();
    const at = await releasedExercise(world, { opensAt });
    const student = await new Visitor(world.address).signUp('Early Student');
    await student.call('POST', '/courses/join', { code: at.joinCode });
    expect((await student.call('GET', at.path)).status).toBe(404);
    expect((await student.call('GET', `${at.path}/pack`)).status).toBe(404);
    expect((await student.call<Schemas['ExerciseSummary'][]>('GET', `${at.course}/exercises`)).body).toEqual(
      [],
    );
    await asOwner('UPDATE exercise SET opens_at = now() WHERE id = $1', [at.exerciseId]);
    expect((await student.call('GET', at.path)).status).toBe(200);
  });
});

describe('attempts and deadlines', () => {
  it('late answers are taken while they may be, and lose what lateness costs', async () => {
    const at = await releasedExercise(world, {
      graceMinutes: 5,
      latePercent: 20,
      lateDays: 2,
      feedback: 'after-return',
    });
    const { student, identifiers } = await joinedStudent(world, at);
    const send = () =>
      student.upload<{ code: string }>(
        `${at.path}/submissions?wait=30`,
        'mine.csv',
        fileFor(identifiers, truthOf),
      );
    await asOwner(`UPDATE exercise SET deadline = now() - interval '25 hours' WHERE id = $1`, [
      at.exerciseId,
    ]);
    expect((await send()).status).toBe(200);
    const marksNow = async () =>
      (await at.instructor.call<Schemas['Gradebook']>('GET', `${at.course}/gradebook`)).body.students[0]
        ?.cells;
    expect(await marksNow()).toEqual([{ marks: 6, latePercent: 40, excused: false }]);
    await asOwner(`UPDATE exercise SET deadline = now() - interval '49 hours' WHERE id = $1`, [
      at.exerciseId,
    ]);
    expect((await send()).body.code).toBe('deadline-passed');

    // A deadline of their own takes the lateness back, also of what was handed in before.
    const { body: people } = await at.instructor.call<Schemas['Member'][]>('GET', `${at.course}/people`);
    const personId = people.find(({ role }) => role === 'student')?.id ?? '';
    const own = `${at.path}/deadlines/${personId}`;
    const later = new Date(Date.now() + HOUR).toISOString();
    expect((await at.instructor.call('PUT', own, { deadline: later })).status).toBe(204);
    expect((await student.call<Schemas['ExerciseDetail']>('GET', at.path)).body.deadline).toBe(later);
    expect((await send()).status).toBe(200);
    expect(await marksNow()).toEqual([{ marks: 10, latePercent: 0, excused: false }]);
    await at.instructor.call('POST', `${at.path}/return`);
    expect((await receiptsOf(student, at.path)).body.map(({ disclosed }) => disclosed?.latePercent)).toEqual([
      0, 0,
    ]);
    expect(
      (await at.instructor.call('PUT', own.replace(personId, at.exerciseId), { deadline: later })).status,
    ).toBe(404);
  });

  it('are told again when the deadline moves, for one student or for all', async () => {
    const at = await releasedExercise(world, {
      questions: [
        {
          id: 'choice',
          kind: 'choice',
          title: 'Choice',
          text: '',
          marks: 4,
          values: { manner: 'each', credit: 'each' },
          statements: [{ text: 'Rows are tested once', truth: true }],
        },
      ],
      feedback: 'everything',
      latePercent: 25,
      lateDays: 2,
    });
    const { student } = await joinedStudent(world, at);
    await asOwner(`UPDATE exercise SET deadline = now() - interval '1 hour' WHERE id = $1`, [at.exerciseId]);
    await hand(student, at.path, 'choice', { fields: { s1: 'true' } });
    const told = async () => {
      const [receipt] = (await receiptsOf(student, at.path)).body;
      return [receipt?.disclosed?.marks, receipt?.disclosed?.latePercent];
    };
    expect(await told()).toEqual([3, 25]);
    const { body: people } = await at.instructor.call<Schemas['Member'][]>('GET', `${at.course}/people`);
    const personId = people.find(({ role }) => role === 'student')?.id ?? '';
    const later = new Date(Date.now() + HOUR).toISOString();
    await at.instructor.call('PUT', `${at.path}/deadlines/${personId}`, { deadline: later });
    expect(await told()).toEqual([4, 0]);
    await at.instructor.call('PUT', `${at.path}/deadlines/${personId}`, { deadline: null });
    expect(await told()).toEqual([3, 25]);
    const { title, brief } = at.settings;
    const amendment = {
      title,
      brief,
      attempts: 3,
      deadline: later,
      latePercent: 25,
      notice: 'An hour more.',
    };
    await at.instructor.call('PUT', `${at.path}/amendment`, amendment);
    expect(await told()).toEqual([4, 0]);
  });

  it('end for the day, and in all, also when they are sent at the same moment', async () => {
    const at = await releasedExercise(world, { attempts: 3, perDay: 2 });
    const { student, identifiers } = await joinedStudent(world, at);
    const send = (i: number) =>
      student.upload<{ code: string; outcome?: string }>(
        `${at.path}/submissions`,
        `f${i}.csv`,
        fileFor(identifiers, truthOf),
      );
    const replies = await Promise.all([0, 1, 2, 3].map(send));
    const refused = replies.filter(({ status }) => status === 409);
    expect(refused.map(({ body }) => body.code)).toEqual(['no-attempts-today', 'no-attempts-today']);
    for (const reply of replies) if (!refused.includes(reply)) expectTaken(reply);
    await checkedReceipts(student, at.path, 2);
    await asOwner(
      `UPDATE submission SET received_at = received_at - interval '1 day' WHERE exercise_id = $1`,
      [at.exerciseId],
    );
    expectTaken(await send(5));
    expect((await send(6)).body.code).toBe('no-attempts');
    expect(await usedBy(student, at.path)).toBe(3);
  });
});
