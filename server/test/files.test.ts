import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { markAnswer, readExercise, readKeys } from '@modest-sieve/core/assessment';
import { DataSource } from 'typeorm';
import { readConfig } from '../src/platform/config/config.js';
import { fetchFiles, keepFile } from '../src/platform/files/files.js';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, type World } from './world/world.js';
import { fileFor, hand, joinedStudent, predictionsBy, releasedExercise } from './world/class.js';
import { EVERY_KIND } from './world/questions.js';

let world: World;

beforeAll(async () => {
  world = await startWorld();
});

afterAll(() => world.stop());

describe('files of an exercise', () => {
  it('mark an answer anywhere as the server does', async () => {
    const at = await releasedExercise(world, { questions: EVERY_KIND });
    const { student, identifiers } = await joinedStudent(world, at);
    const text = fileFor(identifiers, (id) => (Number(id.slice(1)) % 5 === 0 ? 'yes' : 'no'));
    const { body } = await hand(student, at.path, 'q1', { file: text });
    const exercise = readExercise((await at.instructor.call('GET', `${at.path}/file`)).text, 'exercise.json');
    const { secret, keys } = readKeys((await at.instructor.call('GET', `${at.path}/keys`)).text, 'keys.json');
    const question = exercise.questions[0];
    const rules = exercise.released[0]?.rules;
    const key = keys['q1']?.key;
    if (!question || !rules || !key) throw new Error('no key');
    const [person] = await asOwner<{ id: string }>('SELECT id FROM identity.person WHERE email = $1', [
      student.email,
    ]);
    const file = { name: 'answer.csv', bytes: new TextEncoder().encode(text) };
    const own = markAnswer(question, { file, fields: {} }, rules, key, {
      who: { secret, question: 'q1', id: person?.id ?? '' },
      stepped: false,
      before: null,
    });
    const opened = await at.instructor.call<Schemas['SubmissionInfo']>(
      'GET',
      `${at.path}/submissions/${body.id}`,
    );
    expect(JSON.parse(JSON.stringify(own))).toEqual(opened.body.result);
    const trail = await at.instructor.call<Schemas['AuditPage']>('GET', `${at.course}/audit`);
    expect(JSON.stringify(trail.body)).toContain('keys taken out');
  });
});

describe('a draft', () => {
  it('can be seen and answered as a student would, and nothing of it is kept', async () => {
    const at = await releasedExercise(world, { questions: EVERY_KIND });
    const { body: made } = await at.instructor.call<{ id: string }>('POST', `${at.course}/exercises`, {
      ...at.settings,
      title: 'Draft',
    });
    const draft = `${at.course}/exercises/${made.id}`;
    const { body } = await at.instructor.call<Schemas['ExercisePreview']>('GET', `${draft}/preview`);
    expect(body.sheets).toHaveLength(6);
    expect(body.files.map(({ name }) => name)).toContain('split-example.csv');
    expect(body.audit.length).toBeGreaterThan(0);
    const form = new FormData();
    form.set('fields', JSON.stringify({ s1: 'true', s2: 'true' }));
    const tried = await at.instructor.call<Schemas['TriedAnswer']>('POST', `${draft}/tries/choice`, form);
    // The same answer to both, of which one is true.
    expect(tried.body.result).toMatchObject({ holds: true, marks: 0, outOf: 2 });
    const counts = await asOwner(
      `SELECT (SELECT count(*) FROM submission WHERE exercise_id = $1)::int AS submissions,
              (SELECT count(*) FROM pack WHERE exercise_id = $1)::int AS packs,
              (SELECT count(*) FROM vault.answer_key WHERE exercise_id = $1)::int AS keys`,
      [made.id],
    );
    expect(counts).toEqual([{ submissions: 0, packs: 0, keys: 0 }]);
  });

  it.each([
    [[], 'Add a question.'],
    [
      [{ ...predictionsBy('accuracy'), metric: 'rmse' }],
      'Question 1: root mean squared error does not judge this task.',
    ],
    [[predictionsBy('accuracy'), { ...predictionsBy('f1'), id: 'q1' }], 'Question 2 has no name of its own.'],
    [[{ ...EVERY_KIND[5], statements: [] }], 'Question 1: Give one statement or more.'],
    [[{ ...EVERY_KIND[1], values: {} }], 'Question 1: '],
  ])('with questions that cannot be asked is not kept: %#', async (questions, words) => {
    const at = await releasedExercise(world);
    const reply = await at.instructor.call('POST', `${at.course}/exercises`, { ...at.settings, questions });
    expect(reply.status).toBe(422);
    expect(reply.body.title).toContain(words);
  });
});

describe('kept files', () => {
  it('are fetched together in the order asked for, up to a number of bytes', async () => {
    const source = await new DataSource({ type: 'postgres', url: readConfig().ownerUrl }).initialize();
    try {
      const pieces = Buffer.alloc(2.5 * 1024 * 1024, 'many pieces ');
      const contents = [pieces, Buffer.from('short'), Buffer.alloc(0)];
      const kept: string[] = [];
      for (const bytes of contents) kept.push(await keepFile(source.manager, 'public', bytes));
      const [long = '', short = '', empty = ''] = kept;
      const fetched = async (asked: string[], most: number) =>
        (await fetchFiles(source.manager, 'public', asked, most)).map((bytes) =>
          Buffer.from(bytes).toString(),
        );
      const whole = pieces.toString();
      expect(await fetched([short, long, empty, short], 1e9)).toEqual(['short', whole, '', 'short']);
      expect(await fetched([short, empty, long, short], 5)).toEqual(['short', '']);
      expect(await fetched([long, short], pieces.length)).toEqual([whole]);
      expect(await fetched([], 5)).toEqual([]);
    } finally {
      await source.destroy();
    }
  });
});
