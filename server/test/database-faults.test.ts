import { afterAll, beforeAll, describe, expect, it, jest } from '@jest/globals';
import pg from 'pg';
import { readConfig } from '../src/platform/config/config.js';
import { migrate } from '../src/assembly/migrate.js';
import { startPostgres, stopPostgres } from './world/postgres.js';
import { asOwner, startWorld, until, type World } from './world/world.js';
import {
  checkedReceipts,
  fileFor,
  HOUR,
  expectTaken,
  joinedStudent,
  receiptsOf,
  releasedExercise,
  truthOf,
} from './world/class.js';
import { counts, send } from './world/counts.js';

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
    expectTaken(await send(student, at.path, text));
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
      'Searches1765000000012',
      'FeatureSets1765000000013',
      'RepeatedRows1765100000014',
      'Slips1765100000015',
      'Gradebook1765200000016',
      'Verdicts1765300000017',
      'CheckAgain1765400000018',
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
