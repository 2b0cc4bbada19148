import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it, jest } from '@jest/globals';
import pg from 'pg';
import { readConfig } from '../src/platform/config/config.js';
import { migrate } from '../src/assembly/migrate.js';
import { startPostgres, stopPostgres } from './world/postgres.js';
import { startProcess } from './world/processes.js';
import type { Schemas } from './world/schemas.js';
import {
  asOwner,
  checkedReceipts,
  fileFor,
  HOUR,
  joinedStudent,
  receiptsOf,
  releasedExercise,
  startWorld,
  truthOf,
  until,
  Visitor,
  type World,
  predictionsBy,
} from './world/world.js';

/** What may go wrong on a deadline evening. After each fault every acknowledged submission is checked exactly once. */

/** How often each submission of an exercise was checked, and how often it was told so. */
const counts = (exerciseId: string) =>
  asOwner<{ results: number; receipts: number }>(
    `SELECT (SELECT count(*)::int FROM vault.result r WHERE r.submission_id = s.id) AS results,
            (SELECT count(*)::int FROM receipt r WHERE r.submission_id = s.id) AS receipts
       FROM submission s WHERE s.exercise_id = $1`,
    [exerciseId],
  );

const send = (student: Visitor, path: string, text: string, key = 'one') =>
  student.upload<{ id: string; code: string }>(`${path}/submissions`, 'mine.csv', text, {
    'idempotency-key': key,
  });

/** Classes that depend on no part of an identifier: in a long table the audit of the pack would find that. */
const mixedClass = (row: number): string =>
  (Math.imul(row ^ (row >>> 7), 0x9e3779b1) >>> 8) % 3 === 0 ? 'yes' : 'no';
const mixedTruth = (id: string): string => mixedClass(Number(id.slice(1)));
const MANY = `id,x,y\n${Array.from({ length: 40_000 }, (_, i) => `c${i},${((i * 37) % 61) / 10},${mixedClass(i)}`).join('\n')}\n`;

describe('workers', () => {
  let world: World;
  beforeAll(async () => {
    world = await startWorld({ worker: false });
  });
  afterAll(() => world.stop());

  /** An exercise whose files take some seconds to check: its interval is redrawn a thousand times over many rows. */
  async function slowExercise() {
    const helper = await startProcess('worker');
    const at = await releasedExercise(
      world,
      { questions: [predictionsBy('f1')], feedback: 'after-return' },
      MANY,
    );
    await helper.kill('SIGTERM');
    return { at, ...(await joinedStudent(world, at)) };
  }

  it('one that is killed in mid-check loses nothing: another takes the check up', async () => {
    const { at, student, identifiers } = await slowExercise();
    const first = await startProcess('worker');
    await send(student, at.path, fileFor(identifiers, mixedTruth));
    const jobs = () => at.instructor.call<Schemas['JobInfo'][]>('GET', `${at.course}/jobs`);
    await until(jobs, ({ body }) => body.some((job) => job.kind === 'check' && job.state === 'running'));
    await first.kill('SIGKILL');
    expect(await receiptsOf(student, at.path)).toMatchObject({ body: [{ outcome: 'waiting' }] });
    const second = await startProcess('worker');
    expect(await checkedReceipts(student, at.path)).toMatchObject([{ outcome: 'checked' }]);
    expect(await counts(at.exerciseId)).toEqual([{ results: 1, receipts: 1 }]);
    const [check] = (await jobs()).body;
    expect(check).toMatchObject({ kind: 'check', tries: 2 });
    await second.kill('SIGTERM');
  });

  it('one that is asked to stop hands its check over untried', async () => {
    const { at, student, identifiers } = await slowExercise();
    const [first, second] = await Promise.all([startProcess('worker'), startProcess('worker')]);
    await send(student, at.path, fileFor(identifiers, mixedTruth));
    await Promise.all([first.kill('SIGTERM')]);
    expect(await checkedReceipts(student, at.path)).toMatchObject([{ outcome: 'checked' }]);
    expect(await counts(at.exerciseId)).toEqual([{ results: 1, receipts: 1 }]);
    await second.kill('SIGTERM');
  });

  it('two of them share the jobs of one database, and none is done twice', async () => {
    const helpers = await Promise.all([startProcess('worker'), startProcess('worker')]);
    const at = await releasedExercise(world, { attempts: 40 });
    const pupils = await Promise.all(
      Array.from({ length: 8 }, (_, i) => joinedStudent(world, at, `Student ${i}`)),
    );
    // Five of each: a person may have so many waiting.
    for (const { student, identifiers } of pupils)
      for (let i = 0; i < 5; i++)
        expect((await send(student, at.path, fileFor(identifiers, truthOf), `key ${i}`)).status).toBe(202);
    for (const { student } of pupils) await checkedReceipts(student, at.path, 5);
    expect(await counts(at.exerciseId)).toEqual(Array(40).fill({ results: 1, receipts: 1 }));
    await Promise.all(helpers.map((helper) => helper.kill('SIGTERM')));
  });
});

describe('the server', () => {
  it('that is killed during an upload has taken nothing, and takes the file once when it is sent again', async () => {
    const world = await startWorld();
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    const web = await startProcess('web');
    const text = fileFor(identifiers, truthOf);
    const cut = request(`${web.address}/api/v1${at.path}/submissions`, {
      method: 'POST',
      headers: {
        cookie: student.cookie,
        'content-type': 'multipart/form-data; boundary=cut',
        'content-length': 100_000,
        'idempotency-key': 'one',
      },
    });
    const broken = new Promise((resolve) => cut.once('error', resolve));
    cut.write(
      `--cut\r\nContent-Disposition: form-data; name="file"; filename="mine.csv"\r\n\r\n${text.slice(0, 60)}`,
    );
    await new Promise((resolve) => setTimeout(resolve, 300));
    await web.kill('SIGKILL');
    await broken;
    expect((await receiptsOf(student, at.path)).body).toEqual([]);
    const replies = [await send(student, at.path, text), await send(student, at.path, text)];
    expect(replies.map(({ status }) => status)).toEqual([202, 202]);
    await checkedReceipts(student, at.path);
    expect(await counts(at.exerciseId)).toEqual([{ results: 1, receipts: 1 }]);
    await world.stop();
  });
});

describe('a web process that is asked to stop', () => {
  it('ends although browsers listen to it', async () => {
    const world = await startWorld({ worker: false });
    const instructor = await new Visitor(world.address).signUp('Ada Instructor');
    const { body } = await instructor.call<{ id: string }>('POST', '/courses', {
      name: 'x',
      timeZone: 'UTC',
    });
    const web = await startProcess('web');
    const listening = await fetch(`${web.address}/api/v1/courses/${body.id}/events`, {
      headers: { cookie: instructor.cookie },
    });
    expect(listening.status).toBe(200);
    await web.kill('SIGTERM');
    await listening.body?.cancel();
    await world.stop();
  });
});

describe('the database', () => {
  let world: World;
  beforeAll(async () => {
    world = await startWorld();
  });
  afterAll(() => world.stop());

  it('that is away for twenty seconds is missed in words, and all goes on when it is back', async () => {
    const at = await releasedExercise(world, { attempts: 20 });
    const { student, identifiers } = await joinedStudent(world, at);
    const text = fileFor(identifiers, truthOf);
    const taken = await send(student, at.path, text, 'before');
    expect(taken.status).toBe(202);
    stopPostgres();
    const away = Date.now() + 20_000;
    let told = 0;
    while (Date.now() < away) {
      const reply = await send(student, at.path, text, 'during');
      expect(reply).toMatchObject({ status: 503, body: { code: 'database-away' } });
      expect(reply.headers.get('retry-after')).toBe('5');
      told++;
      await new Promise((resolve) => setTimeout(resolve, 1000));
    }
    expect(told).toBeGreaterThan(3);
    startPostgres();
    const again = await until(
      () => send(student, at.path, text, 'during'),
      ({ status }) => status === 202,
    );
    expect(again.body.id).not.toBe(taken.body.id);
    expect((await checkedReceipts(student, at.path, 2)).map((r) => r.outcome)).toEqual([
      'checked',
      'checked',
    ]);
    expect(await counts(at.exerciseId)).toEqual(Array(2).fill({ results: 1, receipts: 1 }));
  });

  it('that is full takes a file whole or not at all, and says which', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    // A quota on the table of files, with the error that a full disk gives.
    await asOwner(`
      CREATE FUNCTION full_disk() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN RAISE EXCEPTION 'could not extend file: No space left on device' USING ERRCODE = 'disk_full'; END $$;
      CREATE TRIGGER full_disk BEFORE INSERT ON file_piece FOR EACH ROW EXECUTE FUNCTION full_disk();
    `);
    const text = `${fileFor(identifiers, truthOf)}\n`;
    const reply = await send(student, at.path, text);
    await asOwner('DROP TRIGGER full_disk ON file_piece; DROP FUNCTION full_disk();');
    expect(reply).toMatchObject({ status: 507, body: { code: 'no-room' } });
    expect((await receiptsOf(student, at.path)).body).toEqual([]);
    expect(
      await asOwner(`SELECT 1 FROM pgboss.job WHERE name = 'check' AND data ->> 'courseId' = $1`, [
        at.course.split('/').at(-1),
      ]),
    ).toEqual([]);
    expect((await send(student, at.path, text)).status).toBe(202);
    await checkedReceipts(student, at.path);
    expect(await counts(at.exerciseId)).toEqual([{ results: 1, receipts: 1 }]);
  });

  it('is migrated once by processes that start at the same moment', async () => {
    const config = readConfig();
    await asOwner('CREATE DATABASE sieve_race');
    const race = new URL(config.ownerUrl);
    race.pathname = '/sieve_race';
    const own = { ...config, ownerUrl: race.href };
    await Promise.all([migrate(own), migrate(own), migrate(own)]);
    const client = new pg.Client({ connectionString: race.href });
    await client.connect();
    const { rows } = await client.query<{ name: string }>('SELECT name FROM migration ORDER BY id');
    await client.end();
    expect(rows.map(({ name }) => name)).toEqual([
      'ThePath1763900000001',
      'Foundations1764000000002',
      'Preparation1764100000003',
      'Desks1764200000004',
      'Trials1764300000005',
      'Sheets1764400000006',
      'Secrets1764500000007',
      'Invitations1764600000008',
      'Outcomes1764700000009',
      'Names1764800000010',
      'FileRules1764900000011',
    ]);
    await asOwner('DROP DATABASE sieve_race');
  });

  it('has the clock that decides: a web process whose own is a day ahead refuses nobody', async () => {
    const at = await releasedExercise(world, { deadline: new Date(Date.now() + HOUR).toISOString() });
    const { student, identifiers } = await joinedStudent(world, at);
    const { now } = Date;
    jest.spyOn(Date, 'now').mockImplementation(() => now() + 24 * HOUR);
    const reply = await send(student, at.path, fileFor(identifiers, truthOf));
    jest.restoreAllMocks();
    expect(reply.status).toBe(202);
    const [receipt] = await checkedReceipts(student, at.path);
    expect(Math.abs(new Date(receipt?.receivedAt ?? 0).getTime() - Date.now())).toBeLessThan(HOUR / 2);
  });

  it('has the clock that decides: those of web and worker may jump to and fro while a file is checked', async () => {
    const at = await releasedExercise(world, { latePercent: 50, lateDays: 3, perDay: 1 });
    const { student, identifiers } = await joinedStudent(world, at);
    const { now } = Date;
    let asked = 0;
    jest.spyOn(Date, 'now').mockImplementation(() => now() + (asked++ % 2 === 0 ? 26 : -26) * HOUR);
    const reply = await send(student, at.path, fileFor(identifiers, truthOf));
    const [receipt] = await checkedReceipts(student, at.path);
    const again = await student.upload(`${at.path}/submissions`, 'b.csv', fileFor(identifiers, truthOf));
    jest.restoreAllMocks();
    expect([reply.status, receipt?.outcome]).toEqual([202, 'checked']);
    expect(receipt?.disclosed?.latePercent).toBe(0);
    expect(again.body).toMatchObject({ code: 'no-attempts-today' });
    expect(asked).toBeGreaterThan(1);
    expect(Math.abs(new Date(receipt?.receivedAt ?? 0).getTime() - Date.now())).toBeLessThan(HOUR / 2);
  });
});
