import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { strFromU8, unzipSync } from 'fflate';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, type World } from './world/world.js';
import { hand, joinedStudent, receiptsOf, releasedExercise, VALUES } from './world/class.js';
import { type At, shown, settled, begin, apply } from './world/correcting.js';
import { WRONG, RIGHT, saying } from './world/correcting.js';

let world: World;

beforeAll(async () => {
  world = await startWorld();
});

afterAll(() => world.stop());

const marksIn = async (at: At) =>
  (await at.instructor.call<Schemas['Gradebook']>('GET', `${at.course}/gradebook`)).body.students.map(
    ({ name, cells }) => [name, ...cells.map(({ marks }) => marks)],
  );

describe('a correction of what students have answered', () => {
  it('lists whose marks change before anything is applied, and then issues receipts again', async () => {
    const at = await releasedExercise(world, { questions: [WRONG], feedback: 'everything', attempts: 2 });
    const sam = await joinedStudent(world, at);
    const otto = await joinedStudent(world, at, 'Otto Other');
    await hand(sam.student, at.path, 'choice', { fields: await saying(sam.student, at, false) });
    await hand(otto.student, at.path, 'choice', { fields: await saying(otto.student, at, true) });
    expect(await marksIn(at)).toEqual([
      ['Otto Other', 3],
      ['Sam Student', 2],
    ]);
    expect((await begin(at, [{ ...RIGHT, marks: 4.5 }])).status).toBe(202);
    const { body } = await settled(at);
    expect(body).toMatchObject({
      state: 'ready',
      unchanged: 1,
      questions: [{ question: 'choice', marks: { before: 3, after: 4.5 } }],
      students: [{ person: { name: 'Sam Student' }, marks: { before: 2, after: 4.5 } }],
    });
    // Until it is applied everything is as it was.
    expect((await marksIn(at))[1]).toEqual(['Sam Student', 2]);
    expect((await receiptsOf(sam.student, at.path)).body[0]?.disclosed).toMatchObject({ marks: 2, outOf: 3 });

    expect((await apply(at, '')).status).toBe(400);
    expect((await apply(at)).status).toBe(204);
    expect(await marksIn(at)).toEqual([
      ['Otto Other', 3],
      ['Sam Student', 4.5],
    ]);
    expect((await receiptsOf(sam.student, at.path)).body[0]?.disclosed).toMatchObject({
      marks: 4.5,
      outOf: 4.5,
    });
    const { body: sheet, text } = await sam.student.call<Schemas['ExerciseDetail']>('GET', at.path);
    expect(sheet).toMatchObject({ notice: 'The first statement was marked incorrectly.', marks: 4.5 });
    expect(text).not.toContain('truth');
    const { text: zip } = await sam.student.call('GET', `${at.path}/pack`);
    const { 'brief.md': brief = new Uint8Array() } = unzipSync(Buffer.from(zip, 'latin1'));
    expect(strFromU8(brief)).toContain('(4.5 marks)');
    expect((await shown(at)).body).toMatchObject({ code: 'no-correction' });
    // What was told and what was found before stay on record.
    const record = await asOwner<{ issues: number; results: number }>(
      `SELECT (SELECT count(*) FROM receipt r WHERE r.submission_id = s.id)::int AS issues,
              (SELECT count(*) FROM vault.result v WHERE v.submission_id = s.id)::int AS results
         FROM submission s WHERE s.exercise_id = $1`,
      [at.exerciseId],
    );
    expect(record).toEqual([
      { issues: 2, results: 2 },
      { issues: 2, results: 2 },
    ]);
    const trail = await at.instructor.call<Schemas['AuditPage']>('GET', `${at.course}/audit`);
    expect(JSON.stringify(trail.body)).toContain('correction applied');
  });

  it('says which marks given by hand it would change, and changes those that are chosen', async () => {
    const at = await releasedExercise(world, { questions: [WRONG], feedback: 'everything' });
    const names = ['Ann First', 'Bob Second'];
    const ids: string[] = [];
    for (const name of names) {
      const { student } = await joinedStudent(world, at, name);
      const { body } = await hand(student, at.path, 'choice', { fields: await saying(student, at, false) });
      ids.push(body.id);
      const marks = { marks: 2.5, reason: 'Explained in the lesson.' };
      const path = `${at.path}/submissions/${body.id}/marks`;
      expect((await at.instructor.call('PUT', path, marks)).status).toBe(204);
    }
    await begin(at, [RIGHT]);
    const { body } = await settled(at);
    expect(body).toMatchObject({ unchanged: 2, students: [] });
    expect(body.adjusted).toEqual(
      names.map((name, i) => ({
        submission: ids[i],
        person: expect.objectContaining({ name }),
        question: 'choice',
        given: 2.5,
        found: { before: 2, after: 3 },
      })),
    );
    const foreign = '00000000-0000-4000-8000-000000000000';
    expect(await apply(at, 'Put right.', [foreign])).toMatchObject({
      status: 422,
      body: { code: 'not-adjusted' },
    });
    expect((await apply(at, 'Put right.', [ids[0] ?? ''])).status).toBe(204);
    expect(await marksIn(at)).toEqual([
      ['Ann First', 3],
      ['Bob Second', 2.5],
    ]);
  });

  it('is made of a returned exercise too, and can be dropped', async () => {
    const at = await releasedExercise(world, { questions: [WRONG] });
    const { student } = await joinedStudent(world, at);
    await hand(student, at.path, 'choice', { fields: await saying(student, at, false) });
    await at.instructor.call('POST', `${at.path}/return`);
    await begin(at, [RIGHT]);
    await settled(at);
    expect((await at.instructor.call('DELETE', `${at.path}/correction`)).status).toBe(204);
    expect((await at.instructor.call('DELETE', `${at.path}/correction`)).status).toBe(409);
    expect((await apply(at)).status).toBe(409);
    expect((await receiptsOf(student, at.path)).body[0]?.disclosed?.marks).toBe(2);
    await begin(at, [RIGHT]);
    await settled(at);
    expect((await apply(at)).status).toBe(204);
    const list = await student.call<Schemas['ExerciseSummary'][]>('GET', `${at.course}/exercises`);
    expect(list.body).toMatchObject([{ mark: 3, submissions: 1, answered: 1 }]);
    expect((await receiptsOf(student, at.path)).body).toMatchObject([{ disclosed: { marks: 3 } }]);
  });

  it('asks for nothing else than was answered', async () => {
    const at = await releasedExercise(world, { questions: [WRONG, VALUES] });
    const { student } = await joinedStudent(world, at);
    await hand(student, at.path, 'choice', { fields: await saying(student, at, true) });
    for (const questions of [[RIGHT], [VALUES, WRONG], [RIGHT, { ...VALUES, id: 'other' }]])
      expect((await begin(at, questions)).body).toMatchObject({ code: 'asks-other' });
    expect((await begin(at, [RIGHT, { ...VALUES, marks: 0 }])).status).toBe(422);
    const figures = { kind: 'confusion', values: { rows: 200, positive: 35, asked: ['specificity'] } };
    await begin(at, [RIGHT, { ...VALUES, figures }]);
    expect((await settled(at)).body).toMatchObject({
      state: 'failed',
      problem: { code: 'asks-other', message: expect.stringContaining('Question 2 would ask') },
    });
    expect((await apply(at)).body.code).toBe('not-ready');
    // What replaces it at once is not told what was wrong with the first.
    await begin(at, [RIGHT, { ...VALUES, figures }]);
    await begin(at, [RIGHT, VALUES]);
    expect((await settled(at)).body).toMatchObject({ state: 'ready', problem: null });
    // A tolerance may be another.
    await begin(at, [RIGHT, { ...VALUES, tolerance: { kind: 'absolute', values: { within: 0.1 } } }]);
    expect((await settled(at)).body.state).toBe('ready');
  });

  it('is said to have failed when its job is gone, and can be begun again', async () => {
    const at = await releasedExercise(world, { questions: [WRONG] });
    await begin(at, [RIGHT]);
    await settled(at);
    await asOwner(`UPDATE vault.correction SET state = 'waiting' WHERE exercise_id = $1`, [at.exerciseId]);
    expect((await settled(at)).body).toMatchObject({
      state: 'failed',
      problem: { message: expect.stringContaining('Nothing was changed.') },
    });
    await begin(at, [RIGHT]);
    expect((await settled(at)).body.state).toBe('ready');
    const jobs = await asOwner<{ data: object }>(`SELECT data FROM pgboss.job WHERE name = 'regrade'`);
    const held = jobs.flatMap(({ data }) => Object.values(data) as unknown[]);
    // A job holds identifiers alone of what is corrected.
    expect(held.length).toBeGreaterThan(0);
    for (const value of held) expect(value).toMatch(/^[0-9a-f-]{36}$/);
  });

  it('is said to have failed when its job waits in a queue of an earlier version, which no page lists', async () => {
    const at = await releasedExercise(world, { questions: [WRONG] });
    await begin(at, [RIGHT]);
    await settled(at);
    await asOwner(`SELECT pgboss.create_queue('remark', '{"policy": "standard"}')`);
    const data = await asOwner<{ data: object }>(
      `SELECT data FROM pgboss.job WHERE name = 'regrade' AND data ->> 'exerciseId' = $1`,
      [at.exerciseId],
    );
    await asOwner(`INSERT INTO pgboss.job (name, data) VALUES ('remark', $1)`, [data[0]?.data]);
    await asOwner(`UPDATE vault.correction SET state = 'waiting' WHERE exercise_id = $1`, [at.exerciseId]);
    expect((await settled(at)).body.state).toBe('failed');
    const { body } = await at.instructor.call<Schemas['JobInfo'][]>('GET', `${at.course}/jobs`);
    const kinds: string[] = body.map(({ kind }) => kind);
    expect(kinds).toContain('regrade');
    expect(kinds).not.toContain('remark');
  });
});
