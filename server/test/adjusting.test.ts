import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Schemas } from './world/schemas.js';
import {
  checkedReceipts,
  fileFor,
  hand,
  invitedMember,
  joinedStudent,
  receiptsOf,
  releasedExercise,
  truthOf,
} from './world/class.js';
import { startWorld, type World } from './world/world.js';

let world: World;

beforeAll(async () => {
  world = await startWorld();
});

afterAll(() => world.stop());

describe('a comment on an answer', () => {
  it('is read by its student once the exercise is returned, and changed or taken back after it', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    const aki = await invitedMember(world, at, 'assistant', 'Aki Assistant');
    const { body: receipt } = await hand(student, at.path, 'q1', { file: fileFor(identifiers, () => 'no') });
    const comment = (text: unknown) =>
      aki.call('PUT', `${at.path}/submissions/${receipt.id}/comment`, { text });
    expect((await comment('Look at your **threshold**.')).status).toBe(204);
    expect((await comment(3)).status).toBe(400);
    const told = async () => {
      const { body } = await student.call<Schemas['ReceiptInfo']>('GET', `${at.path}/receipts/${receipt.id}`);
      return body.disclosed?.comment;
    };
    expect(await told()).toBeUndefined();
    const { body: opened } = await aki.call<Schemas['OpenedSubmission']>(
      'GET',
      `${at.path}/submissions/${receipt.id}`,
    );
    expect(opened.comment).toMatchObject({ text: 'Look at your **threshold**.', by: 'Aki Assistant' });
    await at.instructor.call('POST', `${at.path}/return`);
    expect(await told()).toBe('Look at your **threshold**.');
    await comment('Better: look at the curve.');
    expect(await told()).toBe('Better: look at the curve.');
    await comment(' ');
    expect(await told()).toBeUndefined();
  });
});

describe('a comment on all that a student handed in', () => {
  it('is read by that student alone, from the return on', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    const { student: other } = await joinedStudent(world, at, 'Otto Other');
    const { body: receipt } = await hand(student, at.path, 'q1', { file: fileFor(identifiers, () => 'no') });
    const { body: opened } = await at.instructor.call<Schemas['OpenedSubmission']>(
      'GET',
      `${at.path}/submissions/${receipt.id}`,
    );
    expect(opened.remark).toBeNull();
    const write = async (person: string, text: unknown) =>
      (await at.instructor.call('PUT', `${at.path}/remarks/${person}`, { text })).status;
    const { id } = opened.person;
    expect(await write(id, 'Much better than last week.')).toBe(204);
    expect(await write(id, 3)).toBe(400);
    expect(await write('00000000-0000-4000-8000-000000000000', 'To nobody.')).toBe(404);
    const read = async (reader: typeof student) =>
      (await reader.call<Schemas['ExerciseDetail']>('GET', at.path)).body.remark;
    expect(await read(student)).toBeNull();
    await at.instructor.call('POST', `${at.path}/return`);
    expect(await read(student)).toBe('Much better than last week.');
    expect(await read(other)).toBeNull();
    expect(await write(id, 'Well done.')).toBe(204);
    expect(await read(student)).toBe('Well done.');
    expect(await write(id, '')).toBe(204);
    expect(await read(student)).toBeNull();
  });
});

describe('only when better', () => {
  it('shows a score only where it beats the best shown by more than chance, also of files sent at once', async () => {
    const at = await releasedExercise(world, { feedback: 'only-when-better', attempts: 30 });
    const { student, identifiers } = await joinedStudent(world, at);
    const wrong = (share: number) => (id: string) =>
      identifiers.indexOf(id) < share * identifiers.length
        ? truthOf(id) === 'yes'
          ? 'no'
          : 'yes'
        : truthOf(id);
    const send = (share: number) =>
      student.upload<Schemas['ReceiptInfo']>(
        `${at.path}/submissions?wait=60`,
        'f.csv',
        fileFor(identifiers, wrong(share)),
      );
    // Nearly all wrong, so that most of the twelve rows with feedback are, whichever they are.
    const first = (await send(0.9)).body.disclosed?.scored;
    expect(first).toMatchObject({ notBetter: false, feedback: { rounded: true } });
    // The same again, and one answer better: nothing is told.
    for (const share of [0.9, 0.9 - 1 / identifiers.length])
      expect((await send(share)).body.disclosed?.scored).toMatchObject({ feedback: null, notBetter: true });
    expect((await send(0)).body.disclosed?.scored).toMatchObject({
      notBetter: false,
      feedback: { rows: 12 },
    });
    await Promise.all(Array.from({ length: 6 }, () => send(0)));
    const receipts = await checkedReceipts(student, at.path, 10);
    const shown = receipts.flatMap(({ disclosed }) => disclosed?.scored?.feedback ?? []);
    expect(shown).toHaveLength(2);
  });
});

describe('the wear of feedback rows', () => {
  it('is measured from what the class handed in, and told to staff', async () => {
    const at = await releasedExercise(world, { attempts: 5 });
    const students = [
      await joinedStudent(world, at, 'Sam Student'),
      await joinedStudent(world, at, 'Otto Other'),
    ];
    const wear = () => at.instructor.call<Schemas['WearInfo']>('GET', `${at.path}/wear/q1`);
    expect((await wear()).body).toMatchObject({
      attempts: 0,
      shown: 0,
      students: 0,
      gap: null,
      expected: null,
    });
    for (const { student, identifiers } of students)
      for (const every of [2, 3])
        await hand(student, at.path, 'q1', {
          file: fileFor(identifiers, (id) => (Number(id.slice(1)) % every === 0 ? 'yes' : 'no')),
        });
    const { body } = await wear();
    // One of each student's two files has every answer right, on all rows.
    expect(body).toMatchObject({
      attempts: 4,
      shown: 4,
      students: 2,
      gap: 0,
      reason: null,
      expected: { mean: 0 },
    });
    expect(body.asLarge).toBe(1);
    expect((await at.instructor.call('GET', `${at.path}/wear/q9`)).status).toBe(404);
  });
});

describe('marks given by hand', () => {
  it('hold in place of those that were found, for staff at once and for the student when marks are told', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    const aki = await invitedMember(world, at, 'assistant', 'Aki Assistant');
    const { body: receipt } = await hand(student, at.path, 'q1', { file: fileFor(identifiers, () => 'no') });
    const marks = `${at.path}/submissions/${receipt.id}/marks`;
    const adjust = (body: object) => aki.call('PUT', marks, body);
    const inGradebook = async () =>
      (await at.instructor.call<Schemas['Gradebook']>('GET', `${at.course}/gradebook`)).body.students[0]
        ?.cells[0]?.marks;
    const found = await inGradebook();
    expect((await adjust({ marks: 11, reason: 'Well done.' })).body).toMatchObject({ code: 'marks' });
    expect((await adjust({ marks: -1, reason: 'Well done.' })).status).toBe(400);
    expect((await adjust({ marks: 7, reason: '' })).status).toBe(400);
    expect((await adjust({ marks: 7, reason: 'The notebook was right.' })).status).toBe(204);
    expect(await inGradebook()).toBe(7);
    expect(JSON.stringify((await receiptsOf(student, at.path)).body)).not.toContain('notebook');
    await at.instructor.call('POST', `${at.path}/return`);
    const told = async () => {
      const [own] = (await receiptsOf(student, at.path)).body;
      return [own?.disclosed?.marks, own?.disclosed?.adjusted];
    };
    expect(await told()).toEqual([7, 'The notebook was right.']);
    const list = await student.call<Schemas['ExerciseSummary'][]>('GET', `${at.course}/exercises`);
    expect(list.body[0]?.mark).toBe(7);
    // Taken back after the return: the student is told again.
    expect((await adjust({ marks: null, reason: 'Taken back.' })).status).toBe(204);
    expect(await told()).toEqual([found, null]);
    const opened = await at.instructor.call<Schemas['OpenedSubmission']>(
      'GET',
      `${at.path}/submissions/${receipt.id}`,
    );
    expect(opened.body).toMatchObject({ marks: found, adjustment: null });
    const trail = JSON.stringify((await at.instructor.call('GET', `${at.course}/audit`)).body);
    expect(trail).toContain('marks adjusted');
    expect(trail).toContain('The notebook was right.');
  });

  it('are for answers that were checked', async () => {
    const at = await releasedExercise(world);
    const { student } = await joinedStudent(world, at);
    const { body } = await hand(student, at.path, 'q1', { file: 'id\n' });
    const path = `${at.path}/submissions/${body.id}/marks`;
    const refused = await at.instructor.call('PUT', path, { marks: 1, reason: 'Nearly.' });
    expect([body.outcome, refused.body.code]).toEqual(['refused', 'not-checked']);
  });
});
