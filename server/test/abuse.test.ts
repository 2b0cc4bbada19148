import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Databases } from '../src/platform/database/databases.js';
import { readConfig } from '../src/platform/config/config.js';
import { ALL_ENTITIES } from '../src/assembly/entities.js';
import { deleteIdleAnswers } from '../src/submissions/upkeep.js';
import { takeNextJob } from '../src/platform/jobs/turns.js';
import { TRIAL_JOB } from '../src/trials/trial.job.js';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, type World } from './world/world.js';
import {
  checkedReceipts,
  fileFor,
  expectTaken,
  joinedStudent,
  receiptsOf,
  releasedExercise,
  truthOf,
} from './world/class.js';
import { Visitor } from './world/visitor.js';

let world: World;
const databases = new Databases(readConfig(), ALL_ENTITIES);
beforeAll(async () => {
  world = await startWorld();
});
afterAll(async () => {
  await databases.onApplicationShutdown();
  await world.stop();
});

const handIn = (student: Visitor, path: string, text: string, name = 'x.csv') =>
  student.upload<{ id: string; code?: string; title?: string; outcome?: string }>(
    `${path}/submissions`,
    name,
    text,
  );

describe('a file that no answer can be', () => {
  it('is refused by its size, a line or its columns before it is kept, and costs nothing', async () => {
    const at = await releasedExercise(world);
    const { student } = await joinedStudent(world, at);
    const huge = await handIn(student, at.path, `${'h'.repeat(30 * 2 ** 20)}\n`);
    expect(huge).toMatchObject({ status: 413, body: { code: 'size' } });
    expect(huge.body.title).toBe(
      'The file is larger than any answer to this exercise: at most 0.1 MB are taken.',
    );
    expect((await handIn(student, at.path, `id,prediction\n${'y'.repeat(20_000)}\n`)).body.code).toBe(
      'line-length',
    );
    expect((await handIn(student, at.path, `${'a,'.repeat(600)}b\n`)).body.code).toBe('columns');
    expect((await receiptsOf(student, at.path)).body).toEqual([]);
    const [kept] = await asOwner<{ n: number }>(
      'SELECT count(*)::int AS n FROM submission WHERE exercise_id = $1',
      [at.exerciseId],
    );
    expect(kept?.n).toBe(0);
  });

  it('leaves a receipt that stays small where it is quoted', async () => {
    const at = await releasedExercise(world);
    const { student } = await joinedStudent(world, at);
    const cell = 'w'.repeat(7000);
    await handIn(
      student,
      at.path,
      `id,prediction\n${Array.from({ length: 4 }, (_, i) => `${cell}${i},${cell}`).join('\n')}\n`,
      `${'n'.repeat(150)}.csv`,
    );
    const [receipt] = await checkedReceipts(student, at.path);
    expect(receipt?.outcome).toBe('refused');
    expect(JSON.stringify(receipt).length).toBeLessThan(8000);
  });
});

describe('a body with a list in place of an object', () => {
  it('is refused, wherever the object is', async () => {
    const { instructor, path, dataSet, settings, split } = await releasedExercise(world);
    const question = settings.questions[0];
    const folds = { plan: [], splitId: split.id };
    for (const [method, address, body, refused] of [
      ['PUT', `${path}/correction`, { questions: [[], question] }, [400, 'Each question is an object.']],
      [
        'PUT',
        `${path}/correction`,
        { questions: [{ ...question, scheme: [] }] },
        [422, 'questions.0.scheme is not an object.'],
      ],
      ['POST', `${dataSet}/fold-sets`, folds, [400, expect.any(String)]],
      ['POST', `${dataSet}/prepare-preview`, { steps: [[]] }, [400, expect.any(String)]],
    ] as const) {
      const answer = await instructor.call<{ title: string }>(method, address, body);
      expect([address, answer.status, answer.body.title]).toEqual([address, ...refused]);
    }
  });
});

describe('lists of what was handed in', () => {
  it('come in pages and carry no checks', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    await handIn(student, at.path, fileFor(identifiers, truthOf));
    const [first] = await checkedReceipts(student, at.path);
    await asOwner(
      `INSERT INTO submission (exercise_id, person_id, question, number, fields, idempotency_key, received_at)
         SELECT exercise_id, person_id, question, 1 + n, '{}', 'copy ' || n, received_at - n * interval '1 second'
           FROM submission, generate_series(1, 120) n WHERE id = $1`,
      [first?.id],
    );
    await asOwner(
      `INSERT INTO receipt (submission_id, stage, outcome, disclosed)
         SELECT s.id, 'open', 'refused', r.disclosed FROM submission s, receipt r
          WHERE s.exercise_id = $2 AND s.id <> $1 AND r.submission_id = $1`,
      [first?.id, at.exerciseId],
    );
    const pages: number[] = [];
    const seen = new Set<string>();
    for (let before = ''; ;) {
      const { body, text } = await student.call<Schemas['ReceiptPage']>(
        'GET',
        `${at.path}/receipts${before}`,
      );
      expect(text).not.toContain('message');
      pages.push(body.receipts.length);
      for (const { id } of body.receipts) seen.add(id);
      if (body.next === null) break;
      before = `?before=${body.next}`;
    }
    expect(pages).toEqual([50, 50, 21]);
    expect(seen.size).toBe(121);
    const { text } = await at.instructor.call('GET', `${at.path}/class`);
    expect(text).not.toContain('every id once');
  });
});

describe('what one person may have waiting', () => {
  it('is bounded, with an error that says so', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    await handIn(student, at.path, fileFor(identifiers, truthOf));
    const [checked] = await checkedReceipts(student, at.path);
    await asOwner(
      `INSERT INTO submission (exercise_id, person_id, question, number, fields, idempotency_key, received_at)
         SELECT exercise_id, person_id, question, 1 + n, '{}', 'wait ' || n, received_at
           FROM submission, generate_series(1, 6) n WHERE id = $1`,
      [checked?.id],
    );
    expect((await handIn(student, at.path, fileFor(identifiers, truthOf))).body).toMatchObject({
      code: 'too-many-waiting',
      title: '6 of your files wait to be checked. Hand in the next one when they are done.',
    });
    // Nobody else is kept waiting by it.
    const { student: other } = await joinedStudent(world, at, 'Otto Other');
    expectTaken(await handIn(other, at.path, fileFor(identifiers, truthOf)));
  });

  it('is bounded in bytes, too', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    await handIn(student, at.path, fileFor(identifiers, truthOf));
    const [receipt] = await checkedReceipts(student, at.path);
    await asOwner('UPDATE file SET size = 300 * 1024 * 1024 WHERE sha256 = $1', [receipt?.sha256]);
    const reply = await handIn(
      student,
      at.path,
      fileFor(identifiers, () => 'no'),
    );
    expect(reply).toMatchObject({ status: 507, body: { code: 'no-room-for-files' } });
    await asOwner('UPDATE file SET size = 1000 WHERE sha256 = $1', [receipt?.sha256]);
  });

  it('is bounded for a course that imports', async () => {
    const at = await releasedExercise(world);
    const id = at.course.split('/').at(-1);
    await asOwner(
      `INSERT INTO pgboss.job (name, data, start_after) SELECT 'import', jsonb_build_object('courseId', $1::text), now() + interval '1 hour'
         FROM generate_series(1, 12)`,
      [id],
    );
    expect((await at.instructor.upload(`${at.course}/data-sets`, 'more.csv', 'a,b\n1,2\n')).body.code).toBe(
      'too-many-jobs',
    );
    await asOwner(`DELETE FROM pgboss.job WHERE name = 'import' AND data ->> 'courseId' = $1`, [id]);
  });
});

describe('a file that failed its checks', () => {
  it('is kept for a day, then only its checks; what was marked stays', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    await handIn(student, at.path, 'no table of ours\n');
    await checkedReceipts(student, at.path);
    await handIn(student, at.path, fileFor(identifiers, truthOf));
    const receipts = await checkedReceipts(student, at.path, 2);
    const idOf = (outcome: string) => receipts.find((receipt) => receipt.outcome === outcome)?.id ?? '';
    const statusOf = async (id: string) =>
      (await student.call('GET', `${at.path}/receipts/${id}/file`)).status;
    await deleteIdleAnswers(await databases.of('worker'));
    expect([await statusOf(idOf('refused')), await statusOf(idOf('checked'))]).toEqual([200, 200]);
    await asOwner(
      `UPDATE submission SET received_at = received_at - interval '25 hours' WHERE exercise_id = $1`,
      [at.exerciseId],
    );
    await deleteIdleAnswers(await databases.of('worker'));
    expect([await statusOf(idOf('refused')), await statusOf(idOf('checked'))]).toEqual([404, 200]);
    const after = await receiptsOf(student, at.path);
    expect(after.body.find(({ id }) => id === idOf('refused'))?.disclosed?.checks.length).toBeGreaterThan(0);
  });
});

describe('jobs', () => {
  it('are taken in turn by course and then by person, and no person has more than two running', async () => {
    const [a, b] = ['a', 'b'].map((letter) => `${letter.repeat(8)}-0000-4000-8000-000000000000`);
    const [one, two, three] = [1, 2, 3].map((n) => `00000000-0000-4000-8000-00000000000${n}`);
    // Of a lane that no worker of this test takes from.
    const add = (courseId: string | undefined, personId: string | undefined, n: number) =>
      asOwner(
        `INSERT INTO pgboss.job (name, data, created_on)
           SELECT 'trial', jsonb_build_object('courseId', $1::text, 'personId', $2::text), now() - interval '1 minute' + $3 * interval '1 second'
          RETURNING id`,
        [courseId, personId, n],
      );
    await world.stop();
    await asOwner('DELETE FROM job_turn');
    for (let n = 0; n < 6; n++) await add(a, one, n);
    await add(a, two, 10);
    await add(b, three, 11);
    const db = await databases.of('worker');
    const taken: string[] = [];
    for (let n = 0; n < 5; n++) {
      const job = await takeNextJob(db, TRIAL_JOB);
      if (!job) break;
      const { personId = '' } = job.data as { personId?: string };
      taken.push(personId);
      // Done at once, but for the limits of what runs.
      await asOwner(`UPDATE pgboss.job SET state = 'completed' WHERE id = $1`, [job.id]);
    }
    expect(taken).toEqual([one, three, two, one, one]);
    // One trial of a course runs at a time.
    expect(await takeNextJob(db, TRIAL_JOB)).not.toBeNull();
    expect(await takeNextJob(db, TRIAL_JOB)).toBeNull();
    await asOwner(`DELETE FROM pgboss.job WHERE name = 'trial' AND data ->> 'courseId' IN ($1, $2)`, [a, b]);
    world = await startWorld();
  });
});
