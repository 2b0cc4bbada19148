import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Secret } from '@modest-sieve/core/foundation';
import { generate, readKeys } from '@modest-sieve/core/assessment';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, type World } from './world/world.js';
import {
  fileFor,
  hand,
  joinedStudent,
  receiptsOf,
  releasedExercise,
  truthOf,
  type Hand,
} from './world/class.js';
import { Visitor } from './world/visitor.js';
import { EVERY_KIND } from './world/questions.js';

let world: World;

beforeAll(async () => {
  world = await startWorld();
});

afterAll(() => world.stop());

/** The curve that the server computed, as a student who fits the same trees would hand it in, and what it shows. */
async function curveOf(at: Awaited<ReturnType<typeof releasedExercise>>) {
  const { keys } = readKeys((await at.instructor.call('GET', `${at.path}/keys`)).text, 'keys.json');
  const key = keys['curve']?.key;
  const points = (key && 'curve' in key ? key.curve?.points : null) ?? [];
  const errors = points.map(({ mean }) => mean ?? NaN);
  const ses = points.flatMap(({ se }) => se ?? []).sort((a, b) => a - b);
  const best = errors.indexOf(Math.min(...errors));
  const end = (place: number, name: string) =>
    Math.abs((errors[place] ?? NaN) - Math.min(...errors)) <= (ses[ses.length >> 1] ?? 0) ? 'neither' : name;
  return {
    file: `depth,training,validation\n${points.map(({ setting, training }, i) => `${setting},${training},${errors[i]}`).join('\n')}\n`,
    fields: { chosen: String(best + 1), simplest: end(0, 'under'), complex: end(2, 'over') },
  };
}

const namedRows = (column: string, of: (i: number) => string | number, rows: readonly string[]) =>
  `id,${column}\n${rows.map((id, i) => `${id},${of(i)}`).join('\n')}\n`;

describe('an exercise with a question of every kind', () => {
  let at: Awaited<ReturnType<typeof releasedExercise>>;
  let sam: Awaited<ReturnType<typeof joinedStudent>>;
  let given: readonly string[];
  let samsId: string;
  let secret: Secret;

  beforeAll(async () => {
    at = await releasedExercise(world, { questions: EVERY_KIND, feedback: 'rounded', attempts: 4 });
    sam = await joinedStudent(world, at);
    const { body } = await sam.student.call<Schemas['FileRules']>('GET', `${at.path}/questions/split/rules`);
    const split = body.rules;
    given = 'parts' in split ? split.identifiers : [];
    const [row] = await asOwner<{ id: string; bytes: Buffer }>(
      `SELECT p.id, e.bytes FROM identity.person p, vault.exercise_secret e WHERE p.email = $1 AND e.exercise_id = $2`,
      [sam.student.email, at.exerciseId],
    );
    samsId = row?.id ?? '';
    secret = { algorithm: 'hmac-sha256@1', bytes: new Uint8Array(row?.bytes ?? []) };
  });

  const valuesOf = () => {
    const question = EVERY_KIND.find(({ kind }) => kind === 'values');
    if (question?.kind !== 'values') throw new Error('no values');
    return Object.fromEntries(
      generate(question.figures, { secret, question: question.id, id: samsId }).asked.map((one) => [
        one.key,
        'figure' in one ? (one.figure.value ?? NaN).toFixed(4) : '',
      ]),
    );
  };

  /** Correct answers by what the statements say: their names are assigned at random. */
  const choiceOf = async () => {
    const { body } = await sam.student.call<Schemas['ExerciseDetail']>('GET', at.path);
    const fields = body.sheets.find(({ id }) => id === 'choice')?.fields ?? [];
    return Object.fromEntries(
      fields.map(({ key, label }) => [key, String(label === 'Rows are tested once')]),
    );
  };

  it('is seen by a student without truths, keys or seeds', async () => {
    const { text, body } = await sam.student.call<Schemas['ExerciseDetail']>('GET', at.path);
    expect(body.sheets.map(({ kind }) => kind)).toEqual(EVERY_KIND.map(({ kind }) => kind));
    expect(body.composed).toBeNull();
    expect(body.sheets.find(({ id }) => id === 'values')?.text).toMatch(
      /^Of \d+ rows, \d+ yes: \d+ found; \d+ of \d+\.$/,
    );
    expect(text).not.toMatch(/"truth"|seed|"keys":\[|"about"/);
    for (const value of Object.values(valuesOf())) expect(text).not.toContain(value.slice(0, 5));
  });

  it('marks right answers fully, of each kind', async () => {
    const right: Record<string, Hand> = {
      q1: { file: fileFor(sam.identifiers, truthOf) },
      split: { file: namedRows('part', (i) => (i % 4 === 0 ? 'test' : 'training'), given) },
      folds: { file: namedRows('fold', (i) => (i % 4) + 1, given) },
      curve: await curveOf(at),
      values: { fields: valuesOf() },
      choice: { fields: await choiceOf() },
    };
    for (const [question, answer] of Object.entries(right)) {
      const { body } = await hand(sam.student, at.path, question, answer);
      expect(body).toMatchObject({ outcome: 'checked', question });
    }
    const view = await at.instructor.call<Schemas['ClassView']>('GET', `${at.path}/class`);
    expect(view.body.lines[0]).toMatchObject({
      marks: 26,
      answers: [10, 4, 2, 4, 4, 2].map((marks) => ({ marks })),
    });
  });

  it('tells at once what of a split holds, and of values and statements nothing before the return', async () => {
    const receipts = (await receiptsOf(sam.student, at.path)).body;
    const of = (question: string) => receipts.find((receipt) => receipt.question === question)?.disclosed;
    expect(of('split')).toMatchObject({ marks: 4, judged: [{ check: { id: 'sizes', outcome: 'holds' } }] });
    for (const question of ['values', 'choice', 'q1'])
      expect(of(question)).toMatchObject({ marks: null, judged: null });
  });

  it('marks wrong answers by what is wrong, and refuses what cannot be marked, which costs nothing', async () => {
    const { student } = sam;
    const cut = await hand(student, at.path, 'split', {
      file: namedRows('part', (i) => (i < 2 ? 'test' : 'training'), given),
    });
    expect(cut.body.disclosed).toMatchObject({
      marks: 0,
      judged: [
        { check: { id: 'work', outcome: 'fails' }, outOf: 0 },
        { check: { id: 'sizes', outcome: 'fails' } },
      ],
    });
    const curve = await curveOf(at);
    const refused: [string, Hand, string][] = [
      ['folds', { file: namedRows('fold', (i) => i % 4, given) }, 'numbered from 1'],
      ['values', { fields: { ...valuesOf(), precision: '0,5' } }, 'decimal comma'],
      ['choice', { fields: { s1: 'false' } }, 'nothing is chosen'],
      ['curve', { ...curve, file: `${curve.file}3,0,0\n` }, 'is on line 4 too'],
    ];
    for (const [question, answer, words] of refused) {
      const { body } = await hand(student, at.path, question, answer);
      expect(body.outcome).toBe('refused');
      expect(JSON.stringify(body.disclosed?.checks)).toContain(words);
    }
    const { body } = await student.call<Schemas['ExerciseDetail']>('GET', at.path);
    expect(body.sheets.map(({ used }) => used)).toEqual([1, 2, 1, 1, 1, 1]);
  });

  it.each([
    ['no question', '', { fields: { s1: 'true' } }, 'no-such-question'],
    ['a question that is not there', '?question=q9', { fields: { s1: 'true' } }, 'no-such-question'],
    ['nothing', '?question=choice', {}, 'no-answer'],
  ])('says so where %s is named or sent', async (_, query, { fields }: Hand, code) => {
    const form = new FormData();
    if (fields) form.set('fields', JSON.stringify(fields));
    const { body, status } = await sam.student.call<{ code: string }>(
      'POST',
      `${at.path}/submissions${query}`,
      form,
    );
    expect([status, body.code]).toEqual([422, code]);
  });

  it('gives an own draw to each student', async () => {
    const { student } = await joinedStudent(world, at, 'Otto Other');
    const textFor = async (visitor: Visitor) =>
      (await visitor.call<Schemas['ExerciseDetail']>('GET', at.path)).body.sheets.find(
        ({ id }) => id === 'values',
      )?.text;
    expect(await textFor(student)).not.toBe(await textFor(sam.student));
    const wrong = await hand(student, at.path, 'values', { fields: valuesOf() });
    const [opened] = (
      await at.instructor.call<Schemas['ClassView']>('GET', `${at.path}/class`)
    ).body.lines.filter(({ person }) => person.name === 'Otto Other');
    expect(wrong.body.outcome).toBe('checked');
    expect(opened?.marks).toBe(0);
    // Staff see the draw of the student whose answer they open.
    const { body } = await at.instructor.call<Schemas['OpenedSubmission']>(
      'GET',
      `${at.path}/submissions/${wrong.body.id}`,
    );
    expect(body.sheet?.text).toBe(await textFor(student));
  });

  it('tells the instructor how each key came about, and the student everything once returned', async () => {
    const { body } = await at.instructor.call<Schemas['ExerciseDetail']>('GET', at.path);
    expect(body.keys?.map(({ question }) => question)).toEqual(EVERY_KIND.map(({ id }) => id));
    expect(body.composed).toEqual(EVERY_KIND);
    await at.instructor.call('POST', `${at.path}/return`);
    const receipts = (await receiptsOf(sam.student, at.path)).body;
    const values = receipts.find(
      ({ question, outcome }) => question === 'values' && outcome === 'checked',
    )?.disclosed;
    expect(values).toMatchObject({
      marks: 4,
      judged: [{ check: { outcome: 'holds' } }, { check: { outcome: 'holds' } }],
    });
    const list = await sam.student.call<Schemas['ExerciseSummary'][]>('GET', `${at.course}/exercises`);
    expect(list.body[0]).toMatchObject({ mark: 26, questions: 6, answered: 6 });
  });
});
