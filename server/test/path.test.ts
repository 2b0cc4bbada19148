import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, until, type World } from './world/world.js';
import {
  checkedReceipts,
  fileFor,
  HOUR,
  joinedStudent,
  receiptsOf,
  releasedExercise,
  truthOf,
  usedBy,
} from './world/class.js';

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
    expect(csv.text).toBe(
      `"name","address","section","Predict y (of 10)","total in percent"\n"Sam Student","${student.email}",,10,100\n`,
    );
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
      expect(body.students[0]?.cells).toEqual([{ marks, latePercent: 0, excused: false }]);
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
