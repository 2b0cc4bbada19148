import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { startProcess } from './world/processes.js';
import type { Schemas } from './world/schemas.js';
import {
  checkedReceipts,
  fileFor,
  expectTaken,
  joinedStudent,
  receiptsOf,
  releasedExercise,
  truthOf,
  predictionsBy,
} from './world/class.js';
import { startWorld, until, type World } from './world/world.js';
import { Visitor } from './world/visitor.js';
import { counts, send } from './world/counts.js';

/** Classes that depend on no part of an identifier: in a long table the audit of the pack would find that. */
const mixedClass = (row: number): string =>
  (Math.imul(row ^ (row >>> 7), 0x9e3779b1) >>> 8) % 3 === 0 ? 'yes' : 'no';

const mixedTruth = (id: string): string => mixedClass(Number(id.slice(1)));

const MANY = `id,x,y\n${Array.from({ length: 40_000 }, (_, i) => `c${i},${((i * 37) % 61) / 10},${mixedClass(i)}`).join('\n')}\n`;

describe('workers', () => {
  let world: World;
  /** An exercise whose files take some seconds to check: its interval is redrawn a thousand times over many rows. */
  let at: Awaited<ReturnType<typeof releasedExercise>>;
  beforeAll(async () => {
    world = await startWorld({ worker: false });
    const helper = await startProcess('worker');
    at = await releasedExercise(world, { questions: [predictionsBy('f1')], feedback: 'after-return' }, MANY);
    await helper.kill('SIGTERM');
  });
  afterAll(() => world.stop());

  it('one that is killed in mid-check loses nothing: another takes the check up', async () => {
    const { student, identifiers } = await joinedStudent(world, at);
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
    const { student, identifiers } = await joinedStudent(world, at);
    const [first, second] = await Promise.all([startProcess('worker'), startProcess('worker')]);
    await send(student, at.path, fileFor(identifiers, mixedTruth));
    await Promise.all([first.kill('SIGTERM')]);
    expect(await checkedReceipts(student, at.path)).toMatchObject([{ outcome: 'checked' }]);
    expect(await counts(at.exerciseId)).toEqual(Array(2).fill({ results: 1, receipts: 1 }));
    await second.kill('SIGTERM');
  });

  it('two of them share the jobs of one database, and none is done twice', async () => {
    const helpers = await Promise.all([startProcess('worker'), startProcess('worker')]);
    const shared = await releasedExercise(world, { attempts: 40 });
    const pupils = await Promise.all(
      Array.from({ length: 8 }, (_, i) => joinedStudent(world, shared, `Student ${i}`)),
    );
    // Five of each: a person may have so many waiting.
    for (const { student, identifiers } of pupils)
      for (let i = 0; i < 5; i++)
        expectTaken(await send(student, shared.path, fileFor(identifiers, truthOf), `key ${i}`));
    for (const { student } of pupils) await checkedReceipts(student, shared.path, 5);
    expect(await counts(shared.exerciseId)).toEqual(Array(40).fill({ results: 1, receipts: 1 }));
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
