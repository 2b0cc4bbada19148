import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { databaseUrl, readConfig } from '../src/platform/config/config.js';
import { asOwner, startWorld, type World } from './world/world.js';
import { checkedReceipts, fileFor, joinedStudent, releasedExercise, truthOf } from './world/class.js';
import { Visitor } from './world/visitor.js';

let world: World;
let at: Awaited<ReturnType<typeof releasedExercise>>;
let sam: Awaited<ReturnType<typeof joinedStudent>>;
let otto: Awaited<ReturnType<typeof joinedStudent>>;
let samsReceipt: string;

beforeAll(async () => {
  world = await startWorld();
  at = await releasedExercise(world);
  sam = await joinedStudent(world, at);
  otto = await joinedStudent(world, at, 'Otto Other');
  await sam.student.upload(`${at.path}/submissions`, 'sam.csv', fileFor(sam.identifiers, truthOf));
  samsReceipt = (await checkedReceipts(sam.student, at.path))[0]?.id ?? '';
});
afterAll(() => world.stop());

const NOT_FOUND = { status: 404, body: { code: 'not-found', title: 'There is nothing here for you.' } };

describe('unknown and forbidden answer alike', () => {
  it('a student asking for another student’s receipt', async () => {
    expect((await sam.student.call('GET', `${at.path}/receipts/${samsReceipt}`)).status).toBe(200);
    expect(await otto.student.call('GET', `${at.path}/receipts/${samsReceipt}`)).toMatchObject(NOT_FOUND);
    expect((await sam.student.call('GET', `${at.path}/receipts/${samsReceipt}/file`)).status).toBe(200);
    expect(await otto.student.call('GET', `${at.path}/receipts/${samsReceipt}/file`)).toMatchObject(
      NOT_FOUND,
    );
  });

  it.each([
    ['the class', () => `${at.path}/class`],
    ['a submission with its result', () => `${at.path}/submissions/${samsReceipt}`],
    ['the questions as a file', () => `${at.path}/file`],
    ['the keys', () => `${at.path}/keys`],
    ['how keys came about', () => `${at.path}/preview`],
    ['a handed-in file', () => `${at.path}/submissions/${samsReceipt}/file`],
    ['the data sets', () => `${at.course}/data-sets`],
    ['a data set', () => at.dataSet],
    ['its rows', () => `${at.dataSet}/rows`],
    ['what is found in it', () => `${at.dataSet}/findings`],
    ['the target by a column', () => `${at.dataSet}/by-value?column=x`],
    ['two of its columns', () => `${at.dataSet}/pair?x=x&y=y`],
    ['its correlations', () => `${at.dataSet}/correlations`],
    ['its table as a file', () => `${at.dataSet}/table`],
    ['the gradebook', () => `${at.course}/gradebook`],
    ['the gradebook as a file', () => `${at.course}/gradebook.csv`],
    ['the people', () => `${at.course}/people`],
    ['models that were tried', () => `${at.dataSet}/trials`],
  ])('a student asking for %s', async (_, path) => {
    expect((await at.instructor.call('GET', path())).status).toBe(200);
    expect(await sam.student.call('GET', path())).toMatchObject(NOT_FOUND);
  });

  it.each([
    ['POST', () => `${at.path}/return`],
    ['POST', () => `${at.path}/release`],
    ['PUT', () => at.path],
    ['DELETE', () => at.path],
    ['POST', () => `${at.dataSet}/split-preview`],
    ['POST', () => `${at.dataSet}/split-record`],
    ['POST', () => `${at.dataSet}/fold-preview`],
    ['POST', () => `${at.dataSet}/fold-sets`],
    ['POST', () => `${at.dataSet}/trials`],
    ['PATCH', () => `${at.dataSet}/descriptions`],
    ['POST', () => `${at.dataSet}/prepare-preview`],
    ['POST', () => `${at.dataSet}/versions`],
    ['PUT', () => `${at.dataSet}/roles`],
  ])('a student trying %s on an instructor’s route', async (method, path) => {
    expect(await sam.student.call(method, path(), {})).toMatchObject(NOT_FOUND);
  });

  it('someone of another course, instructor or not', async () => {
    const elsewhere = await releasedExercise(world);
    for (const path of [at.course, at.path, `${at.path}/pack`, `${at.path}/class`, at.dataSet]) {
      expect(await elsewhere.instructor.call('GET', path)).toMatchObject(NOT_FOUND);
    }
    // An object of another course under one's own course is unknown as well.
    const foreign = at.path.replace(at.course, elsewhere.course);
    expect(await elsewhere.instructor.call('GET', foreign)).toMatchObject(NOT_FOUND);
  });

  it('addresses that name nothing', async () => {
    for (const path of ['/key', '/courses/not-a-uuid', `${at.course}/keys`, `${at.path}/key`]) {
      expect(await sam.student.call('GET', path)).toMatchObject({ status: 404 });
    }
  });

  it('someone who is not signed in is asked to sign in', async () => {
    expect(await new Visitor(world.address).call('GET', at.path)).toMatchObject({
      status: 401,
      body: { code: 'signed-out' },
    });
  });

  it('a draft is unknown to students', async () => {
    const { body } = await at.instructor.call<{ id: string }>('POST', `${at.course}/exercises`, at.settings);
    expect(await sam.student.call('GET', `${at.course}/exercises/${body.id}`)).toMatchObject(NOT_FOUND);
  });
});

describe('what a student receives while the exercise is open', () => {
  it('names neither target values of held-out rows nor final figures, on any route', async () => {
    for (const path of [
      at.course,
      `${at.course}/exercises`,
      at.path,
      `${at.path}/receipts`,
      `${at.path}/receipts/${samsReceipt}`,
    ]) {
      const { text, status } = await sam.student.call('GET', path);
      expect(status).toBe(200);
      expect(text).not.toMatch(/"counts":\[|residual|"interval":\{|"seed"|"audit":\[|"truth"|"composed":\[/);
      expect(text).not.toMatch(/"final":\{/);
    }
  });
});

describe('the database connection of students', () => {
  let client: pg.Client;
  beforeAll(async () => {
    client = new pg.Client({ connectionString: databaseUrl(readConfig(), 'student') });
    await client.connect();
  });
  afterAll(() => client.end());

  it('is refused by every table of the vault and of identity', async () => {
    const rows = await asOwner<{ name: string }>(
      `SELECT format('%I.%I', schemaname, tablename) AS name FROM pg_tables WHERE schemaname IN ('vault', 'identity')`,
    );
    expect(rows.length).toBeGreaterThanOrEqual(8);
    for (const { name } of rows)
      await expect(client.query(`SELECT * FROM ${name} LIMIT 1`)).rejects.toThrow('permission denied');
  });

  it.each(['data_set', 'data_set_version', 'split', 'fold_set', 'column_roles'])(
    'cannot read %s, which tells of the target',
    async (table) => {
      await expect(client.query(`SELECT * FROM ${table} LIMIT 1`)).rejects.toThrow('permission denied');
    },
  );

  it('cannot write marks', async () => {
    await expect(client.query(`UPDATE receipt SET disclosed = '{}'`)).rejects.toThrow('permission denied');
    await expect(client.query(`UPDATE exercise SET deadline = now()`)).rejects.toThrow('permission denied');
  });

  it('finds identifiers only in job payloads', async () => {
    const { rows } = await client.query<{ data: Record<string, string> }>(
      'SELECT data FROM pgboss.job WHERE data IS NOT NULL',
    );
    expect(rows.length).toBeGreaterThan(0);
    for (const { data } of rows)
      for (const value of Object.values(data)) expect(value).toMatch(/^[0-9a-f-]{36}$/);
  });
});

describe('signing in', () => {
  it('answers a wrong password and an unknown address alike', async () => {
    const visitor = new Visitor(world.address);
    const wrong = await visitor.call('POST', '/session', {
      email: sam.student.email,
      password: 'not the password',
    });
    const unknown = await visitor.call('POST', '/session', {
      email: 'nobody@test.example',
      password: 'not the password',
    });
    expect(wrong).toMatchObject({ status: 401, body: { code: 'wrong-sign-in' } });
    // But for the identifier of the request.
    expect({ ...unknown.body, request: null }).toEqual({ ...wrong.body, request: null });
  });

  it('ends with the session', async () => {
    const visitor = await new Visitor(world.address).signUp('Tilda Transient');
    const { cookie } = visitor;
    await visitor.call('DELETE', '/session');
    expect((await visitor.call('GET', '/tokens', undefined, { cookie })).status).toBe(401);
  });

  it('refuses a write that comes from another site', async () => {
    const reply = await sam.student.call(
      'POST',
      '/courses',
      { name: 'x', timeZone: 'UTC' },
      { origin: 'https://elsewhere.example' },
    );
    expect(reply).toMatchObject({ status: 403, body: { code: 'foreign-origin' } });
  });

  it('says what is wrong with a body, and accepts no field that it does not know', async () => {
    const reply = await sam.student.call('POST', '/courses', {
      name: '',
      timeZone: 'Nowhere/Land',
      role: 'admin',
    });
    expect(reply).toMatchObject({ status: 400, body: { code: 'invalid' } });
    expect(reply.body.title).toContain('Give the course a name.');
    expect(reply.body.title).toContain('role');
  });
});
