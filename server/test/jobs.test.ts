import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Logger } from '@nestjs/common';
import { readConfig } from '../src/platform/config/config.js';
import { Listener } from '../src/platform/database/listener.js';
import { JOBS_CHANNEL } from '../src/platform/jobs/jobs.service.js';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, until, type World } from './world/world.js';
import {
  checkedReceipts,
  fileFor,
  joinedStudent,
  receiptsOf,
  releasedExercise,
  truthOf,
  usedBy,
} from './world/class.js';
import { Visitor } from './world/visitor.js';

/** A world whose jobs nobody takes up: what waits stays waiting. */
let idle: World;
let world: World;
beforeAll(async () => {
  world = await startWorld();
});
afterAll(async () => {
  await world.stop();
});

const jobsOf = async (at: { instructor: Visitor; course: string }) =>
  (await at.instructor.call<Schemas['JobInfo'][]>('GET', `${at.course}/jobs`)).body;

describe('the page of jobs', () => {
  it('tells staff what was done for the course, by the names that people know', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    await student.upload(`${at.path}/submissions?wait=60`, 'mine.csv', fileFor(identifiers, truthOf));
    const jobs = await until(
      () => jobsOf(at),
      (list) => list.every((job) => job.state === 'done'),
    );
    expect(jobs.map(({ kind, subject, tries }) => [kind, subject, tries])).toEqual([
      ['check', 'Predict y, file 1 of Sam Student', 1],
      ['pack', 'Predict y', 1],
      ['import', 'cases.csv', 1],
    ]);
    const other = await releasedExercise(world);
    expect((await jobsOf(other)).map((job) => job.kind)).toEqual(['pack', 'import']);
  });
});

describe('a job that comes', () => {
  it('is heard of at once, also after the connection was cut', async () => {
    const kinds: string[] = [];
    let begun = 0;
    const listener = new Listener({
      url: readConfig().ownerUrl,
      channel: JOBS_CHANNEL,
      log: new Logger('a test'),
      hear: (kind) => kinds.push(kind),
      begun: () => (begun += 1),
    });
    const now = () => Promise.resolve({ begun, heard: kinds.includes('import') });
    await until(now, (state) => state.begun === 1);
    await asOwner(
      `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE query = 'LISTEN ${JOBS_CHANNEL}'`,
    );
    await until(now, (state) => state.begun === 2);
    await releasedExercise(world);
    await until(now, (state) => state.heard);
    await listener.close();
    expect(new Set(kinds)).toEqual(new Set(['import', 'pack']));
  });
});

describe('a job of each thing', () => {
  it('is there once, however often it is asked for', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    const taken = await student.upload<{ id: string }>(
      `${at.path}/submissions?wait=60`,
      'mine.csv',
      fileFor(identifiers, truthOf),
    );
    const [row] = await asOwner<{ n: number }>(
      `SELECT count(*)::int AS n FROM pgboss.job WHERE name = 'check' AND id = $1`,
      [taken.body.id],
    );
    expect(row?.n).toBe(1);
  });

  it('that runs a second time changes nothing', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    await student.upload(`${at.path}/submissions?wait=60`, 'mine.csv', fileFor(identifiers, truthOf));
    const [before] = (await receiptsOf(student, at.path)).body;
    await asOwner(`UPDATE pgboss.job SET state = 'retry', start_after = now() WHERE id = $1`, [before?.id]);
    await until(
      () => jobsOf(at),
      (list) => list.every((job) => job.state === 'done'),
    );
    expect((await receiptsOf(student, at.path)).body).toEqual([before]);
    const [row] = await asOwner<{ n: number }>(
      'SELECT count(*)::int AS n FROM vault.result WHERE submission_id = $1',
      [before?.id],
    );
    expect(row?.n).toBe(1);
  });
});

/** Breaks the key of an exercise, so that whatever is checked against it fails. */
const breakKey = (exerciseId: string) =>
  asOwner(`UPDATE vault.answer_key SET key = '\\x00' WHERE exercise_id = $1`, [exerciseId]);

describe('a job that cannot be done', () => {
  it('is tried again, and at last its receipt says what happened and what to do', async () => {
    const at = await releasedExercise(world, { attempts: 1 });
    const { student, identifiers } = await joinedStudent(world, at);
    await breakKey(at.exerciseId);
    await student.upload(`${at.path}/submissions`, 'mine.csv', fileFor(identifiers, truthOf));
    const [tried] = await until(
      () => jobsOf(at),
      ([job]) => (job?.tries ?? 0) > 1,
    );
    expect(tried).toMatchObject({ kind: 'check' });
    // The last of the tries is brought forward; it would come after a minute of pauses.
    await asOwner(
      `UPDATE pgboss.job SET retry_count = retry_limit - 1, start_after = now() WHERE name = 'check' AND data ->> 'courseId' = $1`,
      [at.course.split('/').at(-1)],
    );
    const [receipt] = await checkedReceipts(student, at.path);
    expect(receipt).toMatchObject({
      outcome: 'failed',
      problem:
        'The check did not finish. Your file is kept and no attempt was used. Hand it in again, or ask your instructor.',
    });
    expect(await usedBy(student, at.path)).toBe(0);
    const [failed] = await asOwner<{ output: object }>(
      `SELECT output FROM pgboss.job WHERE name = 'check' AND data ->> 'courseId' = $1`,
      [at.course.split('/').at(-1)],
    );
    expect(failed?.output).toEqual({ message: 'it failed for the last time' });
  });

  it('and whose worker died on the last try is told of all the same', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    await breakKey(at.exerciseId);
    await student.upload(`${at.path}/submissions`, 'mine.csv', fileFor(identifiers, truthOf));
    // As the queue's maintenance leaves a job that expired once too often.
    await asOwner(
      `UPDATE pgboss.job SET state = 'failed' WHERE name = 'check' AND data ->> 'courseId' = $1`,
      [at.course.split('/').at(-1)],
    );
    expect(await checkedReceipts(student, at.path)).toMatchObject([{ outcome: 'failed' }]);
  });
});

describe('checks that did not finish', () => {
  it('are done again when staff ask, one or all, and nothing else is', async () => {
    const at = await releasedExercise(world, { attempts: 2 });
    const students = [await joinedStudent(world, at), await joinedStudent(world, at, 'Sol Second')];
    const keys = await asOwner<{ key: Buffer }>('SELECT key FROM vault.answer_key WHERE exercise_id = $1', [
      at.exerciseId,
    ]);
    await breakKey(at.exerciseId);
    for (const { student, identifiers } of students)
      for (const name of ['first.csv', 'second.csv'])
        await student.upload(`${at.path}/submissions`, name, fileFor(identifiers, truthOf));
    await asOwner(
      `UPDATE pgboss.job SET state = 'failed' WHERE name = 'check' AND data ->> 'courseId' = $1`,
      [at.course.split('/').at(-1)],
    );
    for (const { student } of students) await checkedReceipts(student, at.path, 2);
    const key = keys[0]?.key;
    await asOwner('UPDATE vault.answer_key SET key = $2 WHERE exercise_id = $1', [at.exerciseId, key]);
    const [one, other] = students.map(({ student }) => student) as [Visitor, Visitor];
    const outcomes = async (student: Visitor) =>
      (await checkedReceipts(student, at.path, 2)).map(({ outcome }) => outcome);
    expect([await outcomes(one), await outcomes(other)]).toEqual(Array(2).fill(['failed', 'failed']));
    const [last] = (await receiptsOf(one, at.path)).body;
    const ask = (submission: string | null) =>
      at.instructor.call<{ code: string }>('POST', `${at.path}/checks`, { submission });
    expect((await ask(last?.id ?? '')).status).toBe(204);
    expect(await outcomes(one)).toEqual(['checked', 'failed']);
    expect(await outcomes(other)).toEqual(['failed', 'failed']);
    expect((await ask(null)).status).toBe(204);
    expect([await outcomes(one), await outcomes(other)]).toEqual(Array(2).fill(['checked', 'checked']));
    expect(await usedBy(one, at.path)).toBe(2);
    expect((await ask(null)).body.code).toBe('nothing-unfinished');
  });
});

describe('cancelling', () => {
  beforeAll(async () => {
    await world.stop();
    idle = await startWorld({ worker: false });
  });
  afterAll(async () => {
    await idle.stop();
    world = await startWorld();
  });

  it('ends an import that waits, and says so where it was waited for', async () => {
    const instructor = await new Visitor(idle.address).signUp('Ada Instructor');
    const { body: made } = await instructor.call<{ id: string }>('POST', '/courses', {
      name: 'Cancelled',
      timeZone: 'UTC',
    });
    const course = `/courses/${made.id}`;
    await instructor.upload(`${course}/data-sets`, 'slow.csv', 'a,b\n1,2\n');
    const [job] = await jobsOf({ instructor, course });
    expect(job).toMatchObject({ kind: 'import', subject: 'slow.csv', state: 'waiting', tries: 0 });
    expect((await instructor.call('DELETE', `${course}/jobs/${job?.id ?? ''}`)).status).toBe(204);
    expect((await jobsOf({ instructor, course }))[0]?.state).toBe('cancelled');
    const { body } = await instructor.call<Schemas['DataSetList']>('GET', `${course}/data-sets`);
    expect(body.imports[0]?.problem?.message).toBe('Reading the file was cancelled.');
    expect((await instructor.call('DELETE', `${course}/jobs/${job?.id ?? ''}`)).body.code).toBe('job-ended');
  });
});

describe('a job that is cancelled while it runs', () => {
  it('is stopped by its worker and leaves nothing behind', async () => {
    const instructor = await new Visitor(world.address).signUp('Ada Instructor');
    const { body: made } = await instructor.call<{ id: string }>('POST', '/courses', {
      name: 'Cancelled',
      timeZone: 'UTC',
    });
    const course = `/courses/${made.id}`;
    const line = (i: number) =>
      `${i},${Array.from({ length: 12 }, (_, c) => (i * (c + 7)) % 1013).join(',')}`;
    const text = `id,${Array.from({ length: 12 }, (_, c) => `x${c}`).join(',')}\n${Array.from({ length: 300_000 }, (_, i) => line(i)).join('\n')}\n`;
    await instructor.upload(`${course}/data-sets`, 'large.csv', text);
    const [running] = await until(
      () => jobsOf({ instructor, course }),
      ([job]) => job?.state === 'running' && job.progress !== null,
    );
    expect(running?.progress).toMatchObject({ what: expect.any(String) as unknown });
    expect((await instructor.call('DELETE', `${course}/jobs/${running?.id ?? ''}`)).status).toBe(204);
    await until(
      () =>
        asOwner<{ n: number }>('SELECT count(*)::int AS n FROM job_progress WHERE job_id = $1', [
          running?.id,
        ]),
      ([row]) => row?.n === 0,
    );
    const { body } = await instructor.call<Schemas['DataSetList']>('GET', `${course}/data-sets`);
    expect(body).toMatchObject({ dataSets: [], imports: [{ state: 'failed' }] });
  });
});
