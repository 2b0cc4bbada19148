import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Question } from '@modest-sieve/core/assessment';
import type { Schemas } from './world/schemas.js';
import {
  checkedReceipts,
  fileFor,
  hand,
  HOUR,
  expectTaken,
  joinedStudent,
  predictionsBy,
  receiptsOf,
  releasedExercise,
  truthOf,
  VALUES,
} from './world/class.js';
import { startWorld, until, type World } from './world/world.js';
import { type Visitor } from './world/visitor.js';

let world: World;
beforeAll(async () => {
  world = await startWorld();
});
afterAll(() => world.stop());

type At = Awaited<ReturnType<typeof releasedExercise>>;

const TOMORROW = new Date(Date.now() + 24 * HOUR).toISOString();
const YESTERDAY = new Date(Date.now() - 24 * HOUR).toISOString();

const CHOICE: Question = {
  id: 'choice',
  kind: 'choice',
  title: 'Choice',
  text: '',
  marks: 2,
  values: { manner: 'each', credit: 'each' },
  statements: [
    { text: 'Folds overlap', truth: false },
    { text: 'Rows are tested once', truth: true },
  ],
};

const detailOf = async (visitor: Visitor, { path }: At) =>
  (await visitor.call<Schemas['ExerciseDetail']>('GET', path)).body;

const returned = (at: At) => at.instructor.call('POST', `${at.path}/return`);

/** Opens an exercise again with what it has, but for the changes. */
async function reopened(at: At, changes: Partial<Schemas['ExerciseDetail']> = {}) {
  const { title, brief, attempts, perDay, graceMinutes, latePercent, lateDays, deadline } = await detailOf(
    at.instructor,
    at,
  );
  return at.instructor.call('PUT', `${at.path}/reopening`, {
    ...{ title, brief, attempts, perDay, graceMinutes, latePercent, lateDays, deadline },
    notice: 'It is open until tomorrow.',
    ...changes,
  });
}

const fieldsOf = async (student: Visitor, at: At, question: string) =>
  Object.fromEntries(
    ((await detailOf(student, at)).sheets.find(({ id }) => id === question)?.fields ?? []).map(({ key }) => [
      key,
      question === 'choice' ? 'true' : '0.5',
    ]),
  );

describe('an exercise that was returned', () => {
  it('is reopened: files are taken under its rules, and marks wait for the next return', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    const wrong = (id: string) => (truthOf(id) === 'yes' ? 'no' : 'yes');
    await student.upload(`${at.path}/submissions`, 'first.csv', fileFor(identifiers, wrong));
    await checkedReceipts(student, at.path);
    expect((await reopened(at)).body).toMatchObject({ code: 'not-open' });
    await returned(at);
    expect((await reopened(at, { deadline: TOMORROW })).status).toBe(204);
    expect((await reopened(at)).status).toBe(409);

    expect(await detailOf(student, at)).toMatchObject({
      state: 'released',
      notice: 'It is open until tomorrow.',
      deadline: TOMORROW,
      sheets: [{ keyShown: false, used: 1 }],
    });
    await student.upload(`${at.path}/submissions`, 'second.csv', fileFor(identifiers, truthOf));
    const [second, first] = await checkedReceipts(student, at.path, 2);
    expect(second?.disclosed).toMatchObject({
      marks: null,
      scored: { final: null, feedback: { score: 1, rounded: true } },
    });
    // What a return has shown stays.
    expect(first?.disclosed).toMatchObject({ marks: 0, scored: { final: { score: 0 } } });
    const [open] = (await student.call<Schemas['ExerciseSummary'][]>('GET', `${at.course}/exercises`)).body;
    expect(open).toMatchObject({ state: 'released', mark: null });

    expect((await returned(at)).status).toBe(204);
    expect((await receiptsOf(student, at.path)).body).toMatchObject([
      { disclosed: { marks: 10, scored: { final: { score: 1 } } } },
      { disclosed: { marks: 0 } },
    ]);
    const { body: trail } = await at.instructor.call<Schemas['AuditPage']>('GET', `${at.course}/audit`);
    expect(trail.events.map(({ text }) => text).slice(0, 3)).toEqual(['returned', 'reopened', 'returned']);
  });

  it('needs a deadline that is not past, or a student with such a one', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    const other = await joinedStudent(world, at, 'Otto Other');
    await returned(at);
    expect((await reopened(at, { deadline: YESTERDAY })).body).toMatchObject({
      code: 'deadline',
      title: 'The deadline is in the past, and no student has a later one. Set a later one.',
    });
    const { body: view } = await at.instructor.call<Schemas['ClassView']>('GET', `${at.path}/class`);
    const person = view.lines.find((line) => line.person.name === 'Sam Student')?.person.id ?? '';
    await at.instructor.call('PUT', `${at.path}/deadlines/${person}`, { deadline: TOMORROW });
    expect((await reopened(at, { deadline: YESTERDAY })).status).toBe(204);
    const send = (visitor: Visitor) =>
      visitor.upload<{ outcome?: string }>(
        `${at.path}/submissions`,
        'mine.csv',
        fileFor(identifiers, truthOf),
      );
    expectTaken(await send(student));
    expect((await send(other.student)).body).toMatchObject({ code: 'deadline-passed' });
  });

  it('takes no answer to a question whose key the return showed: to anyone where all have the same one', async () => {
    const at = await releasedExercise(world, { questions: [CHOICE, VALUES] });
    const sam = (await joinedStudent(world, at)).student;
    const otto = (await joinedStudent(world, at, 'Otto Other')).student;
    for (const question of ['choice', 'values'])
      await hand(sam, at.path, question, { fields: await fieldsOf(sam, at, question) });
    // What was refused shows no key.
    const wrong = Object.fromEntries(
      Object.keys(await fieldsOf(otto, at, 'values')).map((key) => [key, 'abc']),
    );
    const { body: refused } = await hand(otto, at.path, 'values', { fields: wrong });
    expect(refused.outcome).toBe('refused');
    await until(
      () => receiptsOf(sam, at.path),
      ({ body }) => body.every(({ outcome }) => outcome !== 'waiting'),
    );
    await returned(at);
    await reopened(at, { deadline: TOMORROW });
    const closed = async (student: Visitor) =>
      (await detailOf(student, at)).sheets.filter((sheet) => sheet.keyShown).map(({ id }) => id);
    expect(await closed(sam)).toEqual(['choice', 'values']);
    // Values are another student's own.
    expect(await closed(otto)).toEqual(['choice']);
    for (const [student, question, status] of [
      [sam, 'choice', 409],
      [sam, 'values', 409],
      [otto, 'choice', 409],
      [otto, 'values', 200],
    ] as const) {
      const taken = await hand(student, at.path, question, { fields: await fieldsOf(student, at, question) });
      expect([question, taken.status]).toEqual([question, status]);
      if (status === 409) expect(taken.body).toMatchObject({ code: 'key-shown' });
    }
  });

  it('still counts as one whose final figures students have seen', async () => {
    const at = await releasedExercise(world);
    await returned(at);
    await reopened(at, { deadline: TOMORROW });
    const { body: copy } = await at.instructor.call<{ id: string }>('POST', `${at.course}/exercises`, {
      ...at.settings,
      title: 'Again',
      questions: [predictionsBy('accuracy')],
    });
    const preview = await at.instructor.call<Schemas['ExercisePreview']>(
      'GET',
      `${at.course}/exercises/${copy.id}/preview`,
    );
    expect(preview.body.audit.map(({ id }) => id)).toContain('final-scored');
  });
});
