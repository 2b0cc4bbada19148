import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { strFromU8, unzipSync } from 'fflate';
import type { Schemas } from './world/schemas.js';
import { checkedReceipts, fileFor, joinedStudent, releasedExercise, truthOf } from './world/class.js';
import { startWorld, until, type World } from './world/world.js';
import { Visitor } from './world/visitor.js';

let world: World;

beforeAll(async () => {
  world = await startWorld();
});

afterAll(() => world.stop());

describe('the pack', () => {
  it('holds everything a student needs, and of the held-out answers nothing', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    const pack = await student.call('GET', `${at.path}/pack`);
    expect(pack.type).toBe('application/zip');
    const files = Object.entries(unzipSync(Buffer.from(pack.text, 'latin1'))).map(
      ([name, bytes]) => [name, strFromU8(bytes)] as const,
    );
    expect(files.map(([name]) => name)).toEqual([
      'training.csv',
      'held-out.csv',
      'example.csv',
      'starter-python.ipynb',
      'starter-r.ipynb',
      'starter.py',
      'brief.md',
    ]);
    const heldout = new Map(files).get('held-out.csv') ?? '';
    expect(heldout.split('\n')[0]).toBe('id,x');
    expect(heldout).not.toMatch(/yes|no/);
    const training = new Map(files).get('training.csv') ?? '';
    for (const id of identifiers) expect(training).not.toMatch(new RegExp(`^${id},`, 'm'));
    // In file order the identifiers would ascend.
    const order = identifiers.map((id) => Number(id.slice(1)));
    expect(order).not.toEqual([...order].sort((a, b) => a - b));
  });
});

describe('importing', () => {
  const zip = Uint8Array.of(0x50, 0x4b, 3, 4, 20, 0);
  it.each([
    ['empty.csv', new Uint8Array(), 'empty.csv is empty.'],
    [
      'sheet.csv',
      zip,
      'sheet.csv is a spreadsheet or a zip archive, whatever its name says. Save it as CSV and import that file.',
    ],
    [
      'page.csv',
      Buffer.from('<!doctype html><title>Sign in</title>'),
      'page.csv is a web page, not a table. Perhaps a sign-in page was saved instead of the data.',
    ],
    ['head.csv', Buffer.from('a,b\n'), 'head.csv has a header and no rows under it.'],
    ['ragged.csv', Buffer.from('a,b\n1,2\n3\n'), 'ragged.csv, line 3: 1 field, but the header has 2.'],
    [
      'quote.csv',
      Buffer.from('a,b\n1,"2\n3,4\n'),
      'quote.csv, line 2: a quotation mark in field 2 is opened and never closed.',
    ],
    [
      'nul.csv',
      Buffer.from('a,b\n1,\0\n'),
      'nul.csv holds a zero byte on line 2: it is binary or damaged, not a text table.',
    ],
  ])('%s is refused in words, and the words can be put aside', async (name, bytes, message) => {
    const instructor = await new Visitor(world.address).signUp('Ada Instructor');
    const { body: made } = await instructor.call<{ id: string }>('POST', '/courses', {
      name: 'Imports',
      timeZone: 'UTC',
    });
    await instructor.upload(`/courses/${made.id}/data-sets`, name, Uint8Array.from(bytes));
    const list = await until(
      () => instructor.call<Schemas['DataSetList']>('GET', `/courses/${made.id}/data-sets`),
      ({ body }) => body.imports.some((i) => i.state === 'failed'),
    );
    expect(list.body.imports[0]?.problem?.message).toBe(message);
    await instructor.call(
      'DELETE',
      `/courses/${made.id}/data-sets/imports/${list.body.imports[0]?.id ?? ''}`,
    );
    expect(
      (await instructor.call<Schemas['DataSetList']>('GET', `/courses/${made.id}/data-sets`)).body.imports,
    ).toEqual([]);
  });

  it('a prediction file of 60 MB is refused by its size', async () => {
    const at = await releasedExercise(world);
    const { student } = await joinedStudent(world, at);
    const reply = await student.upload(
      `${at.path}/submissions`,
      'large.csv',
      new Uint8Array(60 * 1024 * 1024),
    );
    expect(reply).toMatchObject({ status: 413, body: { code: 'size' } });
  });

  it('the table comes back row by row as it was', async () => {
    const at = await releasedExercise(world);
    const page = await at.instructor.call<Schemas['RowPage']>('GET', `${at.dataSet}/rows?offset=58&limit=5`);
    expect(page.body).toMatchObject({
      columns: ['id', 'x', 'y'],
      total: 60,
      rows: [
        ['c58', '1.1', 'no'],
        ['c59', '4.8', 'no'],
      ],
    });
  });
});

describe('a server-sent event', () => {
  it('reaches the student when their file is checked, and not another student', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    const { student: other } = await joinedStudent(world, at, 'Otto Other');
    const listen = async (visitor: Visitor) => {
      const stop = new AbortController();
      const response = await fetch(`${world.address}/api/v1${at.course}/events`, {
        headers: { cookie: visitor.cookie },
        signal: stop.signal,
      });
      let heard = '';
      const reading = (async () => {
        const decoder = new TextDecoder();
        for await (const chunk of response.body as AsyncIterable<Uint8Array>) heard += decoder.decode(chunk);
      })().catch(() => undefined);
      return { heard: () => heard, stop: () => (stop.abort(), reading) };
    };
    const [mine, theirs] = await Promise.all([listen(student), listen(other)]);
    await student.upload(`${at.path}/submissions`, 'mine.csv', fileFor(identifiers, truthOf));
    await checkedReceipts(student, at.path);
    await until(
      async () => mine.heard(),
      (heard) => (heard.match(/event: change/g) ?? []).length >= 2,
    );
    expect(theirs.heard()).not.toContain('change');
    await Promise.all([mine.stop(), theirs.stop()]);
  });
});
