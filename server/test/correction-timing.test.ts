import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { readConfig } from '../src/platform/config/config.js';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, until, type World } from './world/world.js';
import {
  checkedReceipts,
  fileFor,
  hand,
  joinedStudent,
  predictionsBy,
  receiptsOf,
  releasedExercise,
  truthOf,
} from './world/class.js';
import { shown, settled, begin, apply } from './world/correcting.js';
import { WRONG, RIGHT, saying } from './world/correcting.js';

let world: World;

beforeAll(async () => {
  world = await startWorld();
});

afterAll(() => world.stop());

describe('a correction while answers come in', () => {
  it('waits for answers that came in while its list was read', async () => {
    const at = await releasedExercise(world, { questions: [WRONG] });
    const { student } = await joinedStudent(world, at);
    await hand(student, at.path, 'choice', { fields: await saying(student, at, true) });
    await begin(at, [RIGHT]);
    await settled(at);
    await hand(student, at.path, 'choice', { fields: await saying(student, at, false) });
    // It is not listed as losing its marks.
    expect((await shown(at)).body).toMatchObject({ students: [{ marks: { before: 3, after: 2 } }] });
    expect((await apply(at)).body.code).toBe('came-meanwhile');
    // By what holds one of the two is wrong, by the correction the other.
    expect((await settled(at)).body).toMatchObject({ state: 'ready', unchanged: 1 });
    expect((await apply(at)).status).toBe(204);
    const { body } = await at.instructor.call<Schemas['ClassView']>('GET', `${at.path}/class`);
    expect(body.lines[0]?.answers[0]).toMatchObject({ marks: 3, submissions: 2 });
    const counting = body.submissions.find(({ id }) => id === body.lines[0]?.answers[0]?.counting);
    expect(counting?.number).toBe(2);
  });

  it('holds for a file that was being checked when it was applied', async () => {
    const at = await releasedExercise(world, { questions: [WRONG] });
    const { student } = await joinedStudent(world, at);
    const [person] = await asOwner<{ id: string }>('SELECT id FROM identity.person WHERE email = $1', [
      student.email,
    ]);
    await begin(at, [RIGHT]);
    await settled(at);
    // The holder of this lock stops the check just before it keeps what it found.
    const holder = new pg.Client({ connectionString: readConfig().ownerUrl });
    await holder.connect();
    const lock = `receipts ${at.exerciseId} ${person?.id ?? ''} choice`;
    await holder.query('SELECT pg_advisory_lock(hashtextextended($1, 0))', [lock]);
    const form = new FormData();
    form.set('fields', JSON.stringify(await saying(student, at, false)));
    await student.call('POST', `${at.path}/submissions`, form);
    await until(
      () =>
        asOwner(`SELECT 1 FROM pg_locks WHERE locktype = 'advisory' AND NOT granted AND database =
                   (SELECT oid FROM pg_database WHERE datname = current_database())`),
      (waiting) => waiting.length > 0,
    );
    expect((await apply(at)).status).toBe(204);
    await holder.end();
    await checkedReceipts(student, at.path);
    const results = await asOwner<{ revision: number; marks: number }>(
      `SELECT v.revision, (v.result ->> 'marks')::float AS marks
         FROM vault.result v JOIN submission s ON s.id = v.submission_id WHERE s.exercise_id = $1`,
      [at.exerciseId],
    );
    expect(results).toEqual([{ revision: 2, marks: 3 }]);
  });

  it('tells again only where it is better, by the metric that holds now', async () => {
    const at = await releasedExercise(world, { feedback: 'only-when-better', attempts: 10 });
    const { student, identifiers } = await joinedStudent(world, at);
    // All “no”: right for two thirds of the rows, and no better than chance where both classes count alike.
    await hand(student, at.path, 'q1', { file: fileFor(identifiers, () => 'no') });
    await hand(student, at.path, 'q1', { file: fileFor(identifiers, truthOf) });
    const scores = async () =>
      (await receiptsOf(student, at.path)).body
        .map(({ disclosed }) => disclosed?.scored?.feedback?.score ?? null)
        .reverse();
    const before = await scores();
    expect(before).toEqual([expect.any(Number), expect.any(Number)]);
    await begin(at, [predictionsBy('balanced_accuracy')]);
    expect((await settled(at)).body.state).toBe('ready');
    expect((await apply(at)).status).toBe(204);
    const after = await scores();
    expect(after[0]).toBeCloseTo(0.5, 6);
    expect(after[0]).not.toBe(before[0]);
    expect(after[1]).toBeGreaterThan(0.9);
    // What comes next is measured by the best that was told again.
    const { body } = await hand(student, at.path, 'q1', { file: fileFor(identifiers, truthOf) });
    expect(body.disclosed?.scored).toMatchObject({ metric: 'balanced_accuracy', notBetter: true });
  });
});
