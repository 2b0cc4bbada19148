import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { freePort, startPostgres, type OwnPostgres } from '../../scripts/machine.mjs';
import { readConfig } from '../src/platform/config/config.js';
import { backUp, restore } from '../src/assembly/dump.js';
import type { Schemas } from './world/schemas.js';
import {
  checkedReceipts,
  fileFor,
  joinedStudent,
  receiptsOf,
  releasedExercise,
  truthOf,
} from './world/class.js';
import { PASSWORD, Visitor } from './world/visitor.js';
import { startWorld } from './world/world.js';

const folder = mkdtempSync(join(tmpdir(), 'sieve-backup-'));
const file = join(folder, 'all.dump');
let empty: OwnPostgres;
beforeAll(async () => {
  empty = await startPostgres({
    folder: join(folder, 'pg'),
    port: await freePort(),
    secret: readConfig().secret,
  });
});
afterAll(() => {
  empty.stop();
  rmSync(folder, { recursive: true, force: true });
});

describe('a back-up', () => {
  it('of a running server, restored into an empty one, has everything: people, files, receipts, keys, jobs', async () => {
    const world = await startWorld();
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    await student.upload(`${at.path}/submissions`, 'mine.csv', fileFor(identifiers, truthOf));
    const receipts = await checkedReceipts(student, at.path);
    await backUp(readConfig(), file);
    await world.stop();

    const before = process.env.SIEVE_DATABASE_URL;
    process.env.SIEVE_DATABASE_URL = empty.url;
    await restore(readConfig(), file);
    const restored = await startWorld();
    const back = new Visitor(restored.address, student.email);
    expect((await back.call('POST', '/session', { email: student.email, password: PASSWORD })).status).toBe(
      204,
    );
    expect((await receiptsOf(back, at.path)).body).toEqual(receipts);
    // The restored server goes on: it checks another file and returns the exercise.
    await back.upload(`${at.path}/submissions`, 'more.csv', fileFor(identifiers, truthOf));
    await checkedReceipts(back, at.path, 2);
    const instructor = new Visitor(restored.address, at.instructor.email);
    await instructor.call('POST', '/session', { email: instructor.email, password: PASSWORD });
    expect((await instructor.call('POST', `${at.path}/return`)).status).toBe(204);
    const { body } = await instructor.call<Schemas['ClassView']>('GET', `${at.path}/class`);
    expect(body.lines).toMatchObject([{ answers: [{ submissions: 2 }], marks: 10 }]);
    await expect(restore(readConfig(), file)).rejects.toThrow('This database holds data already.');
    await restored.stop();
    process.env.SIEVE_DATABASE_URL = before;
  });

  it('that could not be made leaves no file behind', async () => {
    const config = { ...readConfig(), ownerUrl: 'postgres://nobody:x@127.0.0.1:1/sieve' };
    await expect(backUp(config, join(folder, 'never.dump'))).rejects.toThrow('pg_dump ended with 1');
    expect(readdirSync(folder).filter((name) => name.startsWith('never'))).toEqual([]);
  });

  it('is not taken from a file that is none', async () => {
    const config = readConfig();
    const other = new URL(empty.url);
    other.pathname = '/postgres';
    writeFileSync(join(folder, 'none.dump'), 'not a dump');
    await expect(restore({ ...config, ownerUrl: other.href }, join(folder, 'none.dump'))).rejects.toThrow(
      'pg_restore ended with 1',
    );
  });
});
