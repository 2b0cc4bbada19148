import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { modelOf } from '@modest-sieve/core/models';
import type { Question } from '@modest-sieve/core/assessment';
import { strFromU8, unzipSync } from 'fflate';
import pg from 'pg';
import { readConfig } from '../src/platform/config/config.js';
import type { Schemas } from './world/schemas.js';
import {
  asOwner,
  checkedReceipts,
  fileFor,
  hand,
  joinedStudent,
  predictionsBy,
  receiptsOf,
  releasedExercise,
  startWorld,
  truthOf,
  until,
  VALUES,
  type World,
} from './world/world.js';

let world: World;
beforeAll(async () => {
  world = await startWorld();
});
afterAll(() => world.stop());

type Of<K extends Question['kind']> = Extract<Question, { readonly kind: K }>;
type At = Awaited<ReturnType<typeof releasedExercise>>;

/** One statement whose truth its instructor got wrong, and the same put right. */
const WRONG: Of<'choice'> = {
  id: 'choice',
  kind: 'choice',
  title: 'Choice',
  text: '',
  marks: 3,
  values: { manner: 'each', credit: 'each' },
  statements: [
    { text: 'Folds overlap', truth: true },
    { text: 'Rows are tested once', truth: true },
    { text: 'Folds are drawn with replacement', truth: false },
  ],
};
const RIGHT: Of<'choice'> = {
  ...WRONG,
  statements: [
    { text: 'Folds overlap', truth: false },
    { text: 'Rows are tested once', truth: true },
    { text: 'Folds are drawn with replacement', truth: false },
  ],
};

const shown = (at: At) => at.instructor.call<Schemas['CorrectionInfo']>('GET', `${at.path}/correction`);
const settled = (at: At) =>
  until(
    () => shown(at),
    ({ body }) => body.state !== 'waiting',
  );
const begin = (at: At, questions: readonly Question[]) =>
  at.instructor.call('PUT', `${at.path}/correction`, { questions });
const apply = (
  at: At,
  notice = 'The first statement was marked incorrectly.',
  takenBack: readonly string[] = [],
) => at.instructor.call('POST', `${at.path}/correction/apply`, { notice, takenBack });
const marksIn = async (at: At) =>
  (await at.instructor.call<Schemas['Gradebook']>('GET', `${at.course}/gradebook`)).body.students.map(
    ({ name, marks }) => [name, ...marks],
  );

/** Answers by what the statements say: their names are dealt out. */
async function saying(
  student: Awaited<ReturnType<typeof joinedStudent>>['student'],
  at: At,
  overlap: boolean,
) {
  const { body } = await student.call<Schemas['ExerciseDetail']>('GET', at.path);
  const fields = body.sheets.find(({ id }) => id === 'choice')?.fields ?? [];
  return Object.fromEntries(
    fields.map(({ key, label }) => [
      key,
      String(label === 'Folds overlap' ? overlap : label === 'Rows are tested once'),
    ]),
  );
}

describe('a correction of what students have answered', () => {
  it('lists whose marks change before anything is applied, and then issues receipts again', async () => {
    const at = await releasedExercise(world, { questions: [WRONG], feedback: 'everything', attempts: 2 });
    const sam = await joinedStudent(world, at);
    const otto = await joinedStudent(world, at, 'Otto Other');
    await hand(sam.student, at.path, 'choice', { fields: await saying(sam.student, at, false) });
    await hand(otto.student, at.path, 'choice', { fields: await saying(otto.student, at, true) });
    expect(await marksIn(at)).toEqual([
      ['Otto Other', 3],
      ['Sam Student', 2],
    ]);
    expect((await begin(at, [{ ...RIGHT, marks: 4.5 }])).status).toBe(202);
    const { body } = await settled(at);
    expect(body).toMatchObject({
      state: 'ready',
      unchanged: 1,
      questions: [{ question: 'choice', marks: { before: 3, after: 4.5 } }],
      students: [{ person: { name: 'Sam Student' }, marks: { before: 2, after: 4.5 } }],
    });
    // Until it is applied everything is as it was.
    expect((await marksIn(at))[1]).toEqual(['Sam Student', 2]);
    expect((await receiptsOf(sam.student, at.path)).body[0]?.disclosed).toMatchObject({ marks: 2, outOf: 3 });

    expect((await apply(at, '')).status).toBe(400);
    expect((await apply(at)).status).toBe(204);
    expect(await marksIn(at)).toEqual([
      ['Otto Other', 3],
      ['Sam Student', 4.5],
    ]);
    expect((await receiptsOf(sam.student, at.path)).body[0]?.disclosed).toMatchObject({
      marks: 4.5,
      outOf: 4.5,
    });
    const { body: sheet, text } = await sam.student.call<Schemas['ExerciseDetail']>('GET', at.path);
    expect(sheet).toMatchObject({ notice: 'The first statement was marked incorrectly.', marks: 4.5 });
    expect(text).not.toContain('truth');
    const { text: zip } = await sam.student.call('GET', `${at.path}/pack`);
    const { 'brief.md': brief = new Uint8Array() } = unzipSync(Buffer.from(zip, 'latin1'));
    expect(strFromU8(brief)).toContain('(4.5 marks)');
    expect((await shown(at)).body).toMatchObject({ code: 'no-correction' });
    // What was told and what was found before stay on record.
    const record = await asOwner<{ issues: number; results: number }>(
      `SELECT (SELECT count(*) FROM receipt r WHERE r.submission_id = s.id)::int AS issues,
              (SELECT count(*) FROM vault.result v WHERE v.submission_id = s.id)::int AS results
         FROM submission s WHERE s.exercise_id = $1`,
      [at.exerciseId],
    );
    expect(record).toEqual([
      { issues: 2, results: 2 },
      { issues: 2, results: 2 },
    ]);
    const trail = await at.instructor.call<Schemas['AuditPage']>('GET', `${at.course}/audit`);
    expect(JSON.stringify(trail.body)).toContain('correction applied');
  });

  it('says which marks given by hand it would change, and changes those that are chosen', async () => {
    const at = await releasedExercise(world, { questions: [WRONG], feedback: 'everything' });
    const names = ['Ann First', 'Bob Second'];
    const ids: string[] = [];
    for (const name of names) {
      const { student } = await joinedStudent(world, at, name);
      const { body } = await hand(student, at.path, 'choice', { fields: await saying(student, at, false) });
      ids.push(body.id);
      const marks = { marks: 2.5, reason: 'Explained in the lesson.' };
      const path = `${at.path}/submissions/${body.id}/marks`;
      expect((await at.instructor.call('PUT', path, marks)).status).toBe(204);
    }
    await begin(at, [RIGHT]);
    const { body } = await settled(at);
    expect(body).toMatchObject({ unchanged: 2, students: [] });
    expect(body.adjusted).toEqual(
      names.map((name, i) => ({
        submission: ids[i],
        person: expect.objectContaining({ name }),
        question: 'choice',
        given: 2.5,
        found: { before: 2, after: 3 },
      })),
    );
    const foreign = '00000000-0000-4000-8000-000000000000';
    expect(await apply(at, 'Put right.', [foreign])).toMatchObject({
      status: 422,
      body: { code: 'not-adjusted' },
    });
    expect((await apply(at, 'Put right.', [ids[0] ?? ''])).status).toBe(204);
    expect(await marksIn(at)).toEqual([
      ['Ann First', 3],
      ['Bob Second', 2.5],
    ]);
  });

  it('is made of a returned exercise too, and can be dropped', async () => {
    const at = await releasedExercise(world, { questions: [WRONG] });
    const { student } = await joinedStudent(world, at);
    await hand(student, at.path, 'choice', { fields: await saying(student, at, false) });
    await at.instructor.call('POST', `${at.path}/return`);
    await begin(at, [RIGHT]);
    await settled(at);
    expect((await at.instructor.call('DELETE', `${at.path}/correction`)).status).toBe(204);
    expect((await at.instructor.call('DELETE', `${at.path}/correction`)).status).toBe(409);
    expect((await apply(at)).status).toBe(409);
    expect((await receiptsOf(student, at.path)).body[0]?.disclosed?.marks).toBe(2);
    await begin(at, [RIGHT]);
    await settled(at);
    expect((await apply(at)).status).toBe(204);
    const list = await student.call<Schemas['ExerciseSummary'][]>('GET', `${at.course}/exercises`);
    expect(list.body).toMatchObject([{ mark: 3, submissions: 1, answered: 1 }]);
    expect((await receiptsOf(student, at.path)).body).toMatchObject([{ disclosed: { marks: 3 } }]);
  });

  it('asks for nothing else than was answered', async () => {
    const at = await releasedExercise(world, { questions: [WRONG, VALUES] });
    const { student } = await joinedStudent(world, at);
    await hand(student, at.path, 'choice', { fields: await saying(student, at, true) });
    for (const questions of [[RIGHT], [VALUES, WRONG], [RIGHT, { ...VALUES, id: 'other' }]])
      expect((await begin(at, questions)).body).toMatchObject({ code: 'asks-other' });
    expect((await begin(at, [RIGHT, { ...VALUES, marks: 0 }])).status).toBe(422);
    const figures = { kind: 'confusion', values: { rows: 200, positive: 35, asked: ['specificity'] } };
    await begin(at, [RIGHT, { ...VALUES, figures }]);
    expect((await settled(at)).body).toMatchObject({
      state: 'failed',
      problem: { code: 'asks-other', message: expect.stringContaining('Question 2 would ask') },
    });
    expect((await apply(at)).body.code).toBe('not-ready');
    // What replaces it at once is not told what was wrong with the first.
    await begin(at, [RIGHT, { ...VALUES, figures }]);
    await begin(at, [RIGHT, VALUES]);
    expect((await settled(at)).body).toMatchObject({ state: 'ready', problem: null });
    // A tolerance may be another.
    await begin(at, [RIGHT, { ...VALUES, tolerance: { kind: 'absolute', values: { within: 0.1 } } }]);
    expect((await settled(at)).body.state).toBe('ready');
  });

  it('is told to have failed when its job is gone, and can be begun again', async () => {
    const at = await releasedExercise(world, { questions: [WRONG] });
    await begin(at, [RIGHT]);
    await settled(at);
    await asOwner(`UPDATE vault.correction SET state = 'waiting' WHERE exercise_id = $1`, [at.exerciseId]);
    expect((await settled(at)).body).toMatchObject({
      state: 'failed',
      problem: { message: expect.stringContaining('Nothing was changed.') },
    });
    await begin(at, [RIGHT]);
    expect((await settled(at)).body.state).toBe('ready');
    const jobs = await asOwner<{ data: object }>(`SELECT data FROM pgboss.job WHERE name = 'regrade'`);
    const told = jobs.flatMap(({ data }) => Object.values(data) as unknown[]);
    // Of what is corrected a job is told by identifiers alone.
    expect(told.length).toBeGreaterThan(0);
    for (const value of told) expect(value).toMatch(/^[0-9a-f-]{36}$/);
  });

  it('waits for answers that came in while its list was read', async () => {
    const at = await releasedExercise(world, { questions: [WRONG] });
    const { student } = await joinedStudent(world, at);
    await hand(student, at.path, 'choice', { fields: await saying(student, at, true) });
    await begin(at, [RIGHT]);
    await settled(at);
    await hand(student, at.path, 'choice', { fields: await saying(student, at, false) });
    // It is not listed as losing its marks.
    expect((await shown(at)).body).toMatchObject({ students: [{ marks: { before: 3, after: 2 } }] });
    expect((await apply(at)).body.code).toBe('came-meanwhile');
    // By what holds one of the two is wrong, by the correction the other.
    expect((await settled(at)).body).toMatchObject({ state: 'ready', unchanged: 1 });
    expect((await apply(at)).status).toBe(204);
    const { body } = await at.instructor.call<Schemas['ClassView']>('GET', `${at.path}/class`);
    expect(body.lines[0]?.answers[0]).toMatchObject({ marks: 3, submissions: 2 });
    const counting = body.submissions.find(({ id }) => id === body.lines[0]?.answers[0]?.counting);
    expect(counting?.number).toBe(2);
  });

  it('holds for a file that was being checked when it was applied', async () => {
    const at = await releasedExercise(world, { questions: [WRONG] });
    const { student } = await joinedStudent(world, at);
    const [person] = await asOwner<{ id: string }>('SELECT id FROM identity.person WHERE email = $1', [
      student.email,
    ]);
    await begin(at, [RIGHT]);
    await settled(at);
    // The holder of this lock stops the check just before it keeps what it found.
    const holder = new pg.Client({ connectionString: readConfig().ownerUrl });
    await holder.connect();
    const lock = `receipts ${at.exerciseId} ${person?.id ?? ''} choice`;
    await holder.query('SELECT pg_advisory_lock(hashtextextended($1, 0))', [lock]);
    const form = new FormData();
    form.set('fields', JSON.stringify(await saying(student, at, false)));
    await student.call('POST', `${at.path}/submissions`, form);
    await until(
      () =>
        asOwner(`SELECT 1 FROM pg_locks WHERE locktype = 'advisory' AND NOT granted AND database =
                   (SELECT oid FROM pg_database WHERE datname = current_database())`),
      (waiting) => waiting.length > 0,
    );
    expect((await apply(at)).status).toBe(204);
    await holder.end();
    await checkedReceipts(student, at.path);
    const results = await asOwner<{ revision: number; marks: number }>(
      `SELECT v.revision, (v.result ->> 'marks')::float AS marks
         FROM vault.result v JOIN submission s ON s.id = v.submission_id WHERE s.exercise_id = $1`,
      [at.exerciseId],
    );
    expect(results).toEqual([{ revision: 2, marks: 3 }]);
  });

  it('tells again only where it is better, by the metric that holds now', async () => {
    const at = await releasedExercise(world, { feedback: 'only-when-better', attempts: 10 });
    const { student, identifiers } = await joinedStudent(world, at);
    // All “no”: right for two thirds of the rows, and no better than chance where both classes count alike.
    await hand(student, at.path, 'q1', { file: fileFor(identifiers, () => 'no') });
    await hand(student, at.path, 'q1', { file: fileFor(identifiers, truthOf) });
    const scores = async () =>
      (await receiptsOf(student, at.path)).body
        .map(({ disclosed }) => disclosed?.scored?.feedback?.score ?? null)
        .reverse();
    const before = await scores();
    expect(before).toEqual([expect.any(Number), expect.any(Number)]);
    await begin(at, [predictionsBy('balanced_accuracy')]);
    expect((await settled(at)).body.state).toBe('ready');
    expect((await apply(at)).status).toBe(204);
    const after = await scores();
    expect(after[0]).toBeCloseTo(0.5, 6);
    expect(after[0]).not.toBe(before[0]);
    expect(after[1]).toBeGreaterThan(0.9);
    // What comes next is measured by the best that was told again.
    const { body } = await hand(student, at.path, 'q1', { file: fileFor(identifiers, truthOf) });
    expect(body.disclosed?.scored).toMatchObject({ metric: 'balanced_accuracy', notBetter: true });
  });
});

describe('keys that depend on reference runs', () => {
  it('are marked as out of date when these are others, and computed again', async () => {
    const at = await releasedExercise(world, {}, undefined);
    const { instructor, dataSet, split } = at;
    const { body: folds } = await instructor.call<{ id: string }>('POST', `${dataSet}/fold-sets`, {
      plan: { kind: 'draw', values: { k: 3, stratify: 'y', group: '', repeats: 1, seed: 5 } },
      splitId: split.id,
    });
    const { body: trial } = await instructor.call<{ id: string }>('POST', `${dataSet}/trials`, {
      foldSetId: folds.id,
      plan: {
        model: modelOf('tree'),
        features: ['x'],
        vary: [{ key: 'depth', settings: [1, 2, 3] }],
        metric: 'accuracy',
        choose: 'simplest',
        weight: null,
        seed: 1,
      },
    });
    await until(
      () => instructor.call<Schemas['TrialDetail']>('GET', `${dataSet}/trials/${trial.id}`),
      ({ body }) => body.state === 'done',
    );
    const make = (isReference: boolean) =>
      instructor.call('PUT', `${dataSet}/trials/${trial.id}/reference`, { isReference });
    expect((await make(true)).status).toBe(204);
    const curve: Of<'curve'> = {
      id: 'curve',
      kind: 'curve',
      title: 'Curve',
      text: '',
      marks: 4,
      run: trial.id,
      values: {
        setting: 'depth',
        settings: ['1', '2', '3'],
        measure: 'score',
        rule: 'best',
        family: 'run',
        credit: 'each',
      },
    };
    const { body: made } = await instructor.call<{ id: string }>('POST', `${at.course}/exercises`, {
      ...at.settings,
      questions: [curve],
    });
    const own: At = { ...at, path: `${at.course}/exercises/${made.id}`, exerciseId: made.id };
    const detail = () => instructor.call<Schemas['ExerciseDetail']>('GET', own.path);
    await instructor.call('POST', `${own.path}/release`);
    const released = await until(detail, ({ body }) => body.state === 'released');
    expect(released.body.stale).toBe(false);

    await make(false);
    expect((await detail()).body.stale).toBe(true);
    const list = await instructor.call<Schemas['ExerciseSummary'][]>('GET', `${at.course}/exercises`);
    expect(list.body.map(({ id, stale }) => [id, stale])).toEqual(
      expect.arrayContaining([
        [made.id, true],
        [at.exerciseId, false],
      ]),
    );
    const { student } = await joinedStudent(world, own);
    expect((await student.call<Schemas['ExerciseDetail']>('GET', own.path)).body).toMatchObject({
      stale: false,
      correction: null,
    });
    // The run that the question names is no reference any more: the key cannot be computed, and nothing changes.
    await begin(own, [curve]);
    expect((await settled(own)).body).toMatchObject({ state: 'failed', problem: { code: 'no-curve' } });
    await begin(own, [{ ...curve, run: null, values: { ...curve.values, family: 'tree' } }]);
    expect((await settled(own)).body.state).toBe('ready');
    expect((await apply(own)).status).toBe(204);
    expect((await detail()).body.stale).toBe(false);
  });
});
