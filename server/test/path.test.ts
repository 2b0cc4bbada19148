import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { strFromU8, unzipSync } from 'fflate';
import type { Schemas } from './schemas.js';
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
  usedBy,
} from './world.js';

let world: World;
beforeAll(async () => {
  world = await startWorld();
});
afterAll(() => world.stop());

const wrong = (id: string) => (truthOf(id) === 'yes' ? 'no' : 'yes');

describe('from hand-in to marks', () => {
  it('a file is checked, its score rounded while the exercise is open, and final once returned', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    expect(identifiers).toHaveLength(24);
    const taken = await student.upload<Schemas['ReceiptInfo']>(
      `${at.path}/submissions`,
      'mine.csv',
      fileFor(identifiers, truthOf),
    );
    expect(taken.status).toBe(202);
    const [open] = await checkedReceipts(student, at.path);
    expect(open).toMatchObject({
      outcome: 'checked',
      fileName: 'mine.csv',
      disclosed: {
        holds: true,
        marks: null,
        scored: { final: null, feedback: { rows: 12, score: 1, rounded: true } },
      },
    });

    const view = await at.instructor.call<Schemas['ClassView']>('GET', `${at.path}/class`);
    expect(view.body.lines).toMatchObject([
      { answers: [{ submissions: 1, score: 1, marks: 10 }], marks: 10 },
    ]);
    const opened = await at.instructor.call<Schemas['SubmissionInfo']>(
      'GET',
      `${at.path}/submissions/${taken.body.id}`,
    );
    expect(opened.body.result?.scored?.final).toMatchObject({ rows: 12, interval: { method: 'Wilson' } });
    expect(opened.body.result?.scored?.final.grid?.counts).toEqual([
      [8, 0],
      [0, 4],
    ]);

    expect((await at.instructor.call('POST', `${at.path}/return`)).status).toBe(204);
    const [returned] = (await receiptsOf(student, at.path)).body;
    // The class is shown over the line by which its students were marked.
    expect(view.body.lines[0]?.answers[0]?.line).toEqual(returned?.disclosed?.scored?.final?.line);
    expect(returned?.disclosed).toMatchObject({ marks: 10, outOf: 10, scored: { final: { score: 1 } } });
    const list = await student.call<Schemas['ExerciseSummary'][]>('GET', `${at.course}/exercises`);
    expect(list.body).toMatchObject([{ state: 'returned', mark: 10 }]);
    const csv = await at.instructor.call('GET', `${at.course}/gradebook.csv`);
    expect(csv.text).toBe(`"name","address","Predict y (of 10)"\n"Sam Student","${student.email}",10\n`);
    // A returned exercise takes no more files.
    expect(
      (await student.upload(`${at.path}/submissions`, 'more.csv', fileFor(identifiers, truthOf))).body.code,
    ).toBe('returned');
  });

  it('a file that fails its checks costs no attempt, and the receipt names line and column', async () => {
    const at = await releasedExercise(world, { attempts: 1 });
    const { student, identifiers } = await joinedStudent(world, at);
    await student.upload(
      `${at.path}/submissions`,
      'bad.csv',
      fileFor(identifiers, truthOf).replace(/,(yes|no)\n/, ',maybe\n'),
    );
    const [refused] = await checkedReceipts(student, at.path);
    expect(refused?.outcome).toBe('refused');
    expect(refused?.disclosed?.checks.find((c) => c.outcome === 'fails')).toMatchObject({
      id: 'labels',
      examples: [{ line: 2, column: 2 }],
    });
    expect(await usedBy(student, at.path)).toBe(0);

    await student.upload(`${at.path}/submissions`, 'good.csv', fileFor(identifiers, truthOf));
    await checkedReceipts(student, at.path, 2);
    const third = await student.upload(`${at.path}/submissions`, 'third.csv', fileFor(identifiers, wrong));
    expect(third).toMatchObject({
      status: 409,
      body: { code: 'no-attempts', title: 'All 1 attempts are used.' },
    });
  });

  it('the best submission counts, or the last, as the exercise says', async () => {
    for (const [counts, marks] of [
      ['best', 10],
      ['last', 0],
    ] as const) {
      const at = await releasedExercise(world, { counts, feedback: 'after-return' });
      const { student, identifiers } = await joinedStudent(world, at);
      for (const [i, label] of [truthOf, wrong].entries()) {
        await student.upload(`${at.path}/submissions`, `file${i}.csv`, fileFor(identifiers, label));
        await checkedReceipts(student, at.path, i + 1);
      }
      const { body } = await at.instructor.call<Schemas['Gradebook']>('GET', `${at.course}/gradebook`);
      expect(body.students[0]?.marks).toEqual([marks]);
      // After return only: no score is shown while it is open.
      expect((await receiptsOf(student, at.path)).body.map((r) => r.disclosed?.scored?.feedback)).toEqual([
        null,
        null,
      ]);
    }
  });
});

describe('sending twice', () => {
  it('the same idempotency key gives one submission, even at the same moment', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    const send = () =>
      student.upload<Schemas['ReceiptInfo']>(
        `${at.path}/submissions`,
        'mine.csv',
        fileFor(identifiers, truthOf),
        { 'idempotency-key': 'one' },
      );
    const replies = await Promise.all([send(), send(), send(), send()]);
    expect(new Set(replies.map((reply) => reply.body.id)).size).toBe(1);
    expect(await checkedReceipts(student, at.path)).toHaveLength(1);
  });

  it('attempts are not overspent by files sent at the same moment', async () => {
    const at = await releasedExercise(world, { attempts: 2 });
    const { student, identifiers } = await joinedStudent(world, at);
    const replies = await Promise.all(
      Array.from({ length: 6 }, (_, i) =>
        student.upload(`${at.path}/submissions`, `f${i}.csv`, fileFor(identifiers, truthOf)),
      ),
    );
    expect(replies.map((reply) => reply.status).sort()).toEqual([202, 202, 409, 409, 409, 409]);
  });
});

describe('returning while files come in', () => {
  it('leaves no taken file without its final receipt', async () => {
    const at = await releasedExercise(world, { attempts: 20 });
    const students = await Promise.all(['Sam', 'Otto', 'Uma'].map((name) => joinedStudent(world, at, name)));
    const taken: number[] = [];
    let returned = false;
    const keepSending = students.map(async ({ student, identifiers }) => {
      for (let i = 0; i < 20 && !returned; i++) {
        const { status } = await student.upload(
          `${at.path}/submissions`,
          `f${i}.csv`,
          fileFor(identifiers, truthOf),
        );
        taken.push(status);
      }
    });
    await until(
      async () => taken.length,
      (n) => n >= students.length,
    );
    // Refused while a check waits; then asked again.
    await until(
      () => at.instructor.call('POST', `${at.path}/return`),
      ({ status }) => status === 204,
    );
    returned = true;
    await Promise.all(keepSending);
    const receipts = (await Promise.all(students.map(({ student }) => receiptsOf(student, at.path)))).flatMap(
      ({ body }) => body,
    );
    expect(receipts).toHaveLength(taken.filter((status) => status === 202).length);
    expect(receipts.length).toBeGreaterThan(0);
    for (const receipt of receipts) expect(receipt.disclosed?.scored?.final).not.toBeNull();
  });
});

describe('two instructors’ windows', () => {
  it('that mark columns at the same moment lose neither marking', async () => {
    const at = await releasedExercise(world);
    const mark = (group: string | null) =>
      at.instructor.call('PUT', `${at.dataSet}/roles`, {
        target: 'y',
        task: 'binary',
        positive: 'yes',
        identifier: 'id',
        group,
        withheld: [],
      });
    const replies = await Promise.all([mark('x'), mark(null), mark('x'), mark(null)]);
    expect(replies.map(({ status }) => status)).toEqual([204, 204, 204, 204]);
  });
});

describe('deadlines', () => {
  it('a file after the deadline is not taken, and the student is told so', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    await asOwner('UPDATE exercise SET deadline = now() WHERE id = $1', [at.exerciseId]);
    const late = await student.upload(`${at.path}/submissions`, 'late.csv', fileFor(identifiers, truthOf));
    expect(late).toMatchObject({
      status: 409,
      body: { code: 'deadline-passed', title: 'The deadline has passed. Your answer was not taken.' },
    });
    expect((await receiptsOf(student, at.path)).body).toEqual([]);
  });

  it('an exercise with a deadline in the past is not released', async () => {
    const at = await releasedExercise(world);
    const { body } = await at.instructor.call<{ id: string }>('POST', `${at.course}/exercises`, {
      ...at.settings,
      deadline: new Date(Date.now() - HOUR).toISOString(),
    });
    expect((await at.instructor.call('POST', `${at.course}/exercises/${body.id}/release`)).body.code).toBe(
      'deadline',
    );
  });
});

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
      'sheet.csv is a spreadsheet or a zip archive, whatever its name says. Save it as CSV and bring that file.',
    ],
    [
      'page.csv',
      Buffer.from('<!doctype html><title>Sign in</title>'),
      'page.csv is a web page, not a table. Perhaps a sign-in page was saved in place of the data.',
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
        for await (const chunk of response.body ?? []) heard += decoder.decode(chunk as Uint8Array);
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
