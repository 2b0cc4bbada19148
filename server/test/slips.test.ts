import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Schemas } from './world/schemas.js';
import { startWorld, type World } from './world/world.js';
import { hand, joinedStudent, predictionsBy, receiptsOf, releasedExercise, VALUES } from './world/class.js';

let world: World;

beforeAll(async () => {
  world = await startWorld();
});

afterAll(() => world.stop());

const QUESTIONS = [predictionsBy('accuracy'), { ...VALUES, text: '{tp} of {positive}, {tn} of {negative}' }];

/** What became of a case: nothing in its name tells. */
const lost = (id: string): string => {
  const noise = Math.sin(Number(id.slice(1)) * 12.9898) * 43_758.5453;
  return noise - Math.floor(noise) < 0.4 ? 'yes' : 'no';
};
const CASES = `id,x,y\n${Array.from({ length: 400 }, (_, i) => `c${i},${(i * 37) % 101},${lost(`c${i}`)}`).join('\n')}\n`;

/** An exercise with the answers of a student: a percentage without its sign, and predictions that are shifted by a row. */
async function answered(slips: 'never' | 'after-attempt' | 'after-return') {
  const at = await releasedExercise(world, { questions: QUESTIONS, feedback: 'after-return', slips }, CASES);
  const { student, identifiers } = await joinedStudent(world, at);
  const { body } = await student.call<Schemas['ExerciseDetail']>('GET', at.path);
  const text = body.sheets.find(({ id }) => id === 'values')?.text ?? '';
  const [tp = 0, , tn = 0, negative = 1] = (text.match(/\d+/g) ?? []).map(Number);
  const precision = ((100 * tp) / (tp + negative - tn)).toFixed(3);
  await hand(student, at.path, 'values', { fields: { precision } });
  const shifted = identifiers.map((id, i) => `${id},${lost(identifiers.at(i - 1) ?? '')}`);
  await hand(student, at.path, 'q1', { file: `id,prediction\n${shifted.join('\n')}\n` });
  const told = async () =>
    Object.fromEntries(
      (await receiptsOf(student, at.path)).body.map(({ question, disclosed }) => [
        question,
        (disclosed?.slips ?? []).map(({ id }) => id),
      ]),
    );
  return { at, student, told };
}

const NAMED = 'percent-for-fraction';

describe('known mistakes behind what is wrong', () => {
  it('are told after an attempt where the exercise says so, but for what follows from held-out answers', async () => {
    const { at, student, told } = await answered('after-attempt');
    const before = await told();
    expect(before.values).toContain(NAMED);
    expect(before.q1).toEqual([]);
    const { body: receipts } = await receiptsOf(student, at.path);
    const own = receipts.find(({ question }) => question === 'values')?.disclosed?.slips?.[0];
    expect(own).toMatchObject({ field: 'precision', says: expect.stringContaining('percentage') });
    expect(JSON.stringify(receipts)).not.toContain('evidence');
    await at.instructor.call('POST', `${at.path}/return`);
    expect((await told()).q1).toEqual(['rows-shifted']);
  });

  it('wait for the return, or are never told', async () => {
    const later = await answered('after-return');
    expect(await later.told()).toEqual({ values: [], q1: [] });
    await later.at.instructor.call('POST', `${later.at.path}/return`);
    const after = await later.told();
    expect(after.values).toContain(NAMED);
    expect(after.q1).toEqual(['rows-shifted']);
    const never = await answered('never');
    await never.at.instructor.call('POST', `${never.at.path}/return`);
    expect(await never.told()).toEqual({ values: [], q1: [] });
  });

  it('are there for staff with what shows them', async () => {
    const { at } = await answered('never');
    const { body: list } = await at.instructor.call<Schemas['ClassView']>('GET', `${at.path}/class`);
    const ids = list.lines.flatMap(({ answers }) => answers.map(({ counting }) => counting ?? ''));
    const opened = await Promise.all(
      ids.map((id) => at.instructor.call<Schemas['OpenedSubmission']>('GET', `${at.path}/submissions/${id}`)),
    );
    const slips = opened.flatMap(({ body }) => body.result?.slips ?? []);
    expect(slips).toContainEqual(
      expect.objectContaining({
        id: 'rows-shifted',
        question: 'q1',
        evidence: expect.stringContaining('better by'),
      }),
    );
    expect(slips.map(({ id }) => id)).toContain(NAMED);
    const counted = list.slips.find(({ question, id }) => question === 'q1' && id === 'rows-shifted');
    expect(counted).toMatchObject({ title: 'rows shifted' });
    expect(counted?.answers).toHaveLength(1);
    expect(ids).toContain(counted?.answers[0]);
    // What answers fail is counted too, and how hard each question was.
    const values = list.questions.find(({ question }) => question === 'values');
    expect(values).toMatchObject({ answered: 1, students: 1, discrimination: null });
    expect(values?.share).toBeLessThan(1);
    const own = opened.find(({ body }) => body.question === 'values')?.body;
    const wrong = own?.result?.judged.filter(({ check }) => check.outcome === 'fails') ?? [];
    expect(wrong.length).toBeGreaterThan(0);
    expect(values?.failing).toEqual(
      wrong.map(({ check: { id, message } }) => ({ id, message, answers: [own?.id] })),
    );
  });

  it('come with the rows that the class misses, for staff alone', async () => {
    const { at, student } = await answered('never');
    const path = `${at.path}/class/q1/answers`;
    const { body } = await at.instructor.call<Schemas['ClassAnswersInfo']>('GET', path);
    expect(body).toMatchObject({ options: [], leftOut: 0, rows: { students: 1, kind: 'labels' } });
    const { rows, worst = [], missed = 0 } = body.rows ?? {};
    expect(worst).toHaveLength(12);
    for (const row of worst) {
      expect(row.truth).toBe(lost(row.identifier));
      expect(row).toMatchObject({ answer: row.truth === 'yes' ? 'no' : 'yes', missed: 1 });
    }
    expect(missed).toBeGreaterThan(0.2);
    expect(rows).toBeGreaterThan(50);
    // Nothing is chosen where figures are typed.
    const typed = await at.instructor.call<Schemas['ClassAnswersInfo']>(
      'GET',
      `${at.path}/class/values/answers`,
    );
    expect(typed.body).toEqual({ rows: null, leftOut: 0, options: [] });
    expect((await at.instructor.call('GET', `${at.path}/class/q9/answers`)).status).toBe(404);
    expect((await student.call('GET', path)).status).toBe(404);
  });

  it('are dismissed and named by staff: students read what holds, the class counts what was false', async () => {
    const { at, student, told } = await answered('after-attempt');
    const { body: receipts } = await receiptsOf(student, at.path);
    const idOf = (question: string) => receipts.find((one) => one.question === question)?.id ?? '';
    const judge = async (question: string, slip: string, field: string | null, verdict: string) =>
      (
        await at.instructor.call('PUT', `${at.path}/submissions/${idOf(question)}/slips`, {
          slip,
          field,
          verdict,
        })
      ).status;
    expect(await told()).toMatchObject({ values: expect.arrayContaining([NAMED]), q1: [] });
    // Nothing to take back, nothing that was not found to dismiss, nothing of another kind of question.
    expect(await judge('values', NAMED, 'precision', 'undone')).toBe(422);
    expect(await judge('values', NAMED, 'recall', 'dismissed')).toBe(422);
    expect(await judge('values', 'rows-shifted', null, 'named')).toBe(422);
    expect(await judge('values', 'macro-micro-exchanged', 'no such figure', 'named')).toBe(422);
    expect(await judge('values', NAMED, 'precision', 'named')).toBe(422);
    expect(await judge('values', NAMED, 'precision', 'dismissed')).toBe(204);
    expect(await judge('values', 'macro-micro-exchanged', null, 'named')).toBe(204);
    expect(await judge('q1', 'labels-exchanged', null, 'named')).toBe(204);
    const after = await told();
    expect(after.values).not.toContain(NAMED);
    expect(after.values).toContain('macro-micro-exchanged');
    // What follows from held-out answers waits for the return, also where it was named by hand.
    expect(after.q1).toEqual([]);
    const { body: view } = await at.instructor.call<Schemas['ClassView']>('GET', `${at.path}/class`);
    expect(view.slips.map(({ id }) => id)).not.toContain(NAMED);
    expect(view.slips.map(({ id }) => id)).toContain('macro-micro-exchanged');
    const { found } = view.questions.find(({ question }) => question === 'values') ?? {};
    expect(found).toMatchObject({ dismissed: 1 });
    const { body: opened } = await at.instructor.call<Schemas['OpenedSubmission']>(
      'GET',
      `${at.path}/submissions/${idOf('values')}`,
    );
    expect(opened.result?.slips?.map(({ id }) => id)).toContain(NAMED);
    expect(opened.verdicts).toContainEqual(
      expect.objectContaining({
        slip: NAMED,
        field: 'precision',
        verdict: 'dismissed',
        by: 'Ada Instructor',
      }),
    );
    expect(await judge('values', NAMED, 'precision', 'undone')).toBe(204);
    expect((await told()).values).toContain(NAMED);
    await at.instructor.call('POST', `${at.path}/return`);
    expect((await told()).q1).toEqual(['rows-shifted', 'labels-exchanged']);
  });

  it('come with where an answer of predictions goes wrong, for staff alone', async () => {
    const { at, student } = await answered('never');
    const { body: receipts } = await receiptsOf(student, at.path);
    const pathOf = (question: string) =>
      `${at.path}/submissions/${receipts.find((one) => one.question === question)?.id ?? ''}/evidence`;
    const evidence = async (question: string) =>
      (await at.instructor.call<Schemas['AnswerEvidenceInfo']>('GET', pathOf(question))).body.evidence;
    const found = await evidence('q1');
    // Labels without probabilities have no curves.
    expect(found).toMatchObject({ kind: 'labels', residuals: null, classes: { roc: [], positive: null } });
    expect(found?.classes?.confusion.flat().reduce((a, b) => a + b)).toBeGreaterThan(20);
    expect(await evidence('values')).toBeNull();
    expect((await student.call('GET', pathOf('q1'))).status).toBe(404);
  });

  it('are refused a time that there is not', async () => {
    const { at } = await answered('never');
    const { status, body } = await at.instructor.call('POST', `${at.course}/exercises`, {
      ...at.settings,
      slips: 'sometimes',
    });
    expect(status).toBe(400);
    expect(JSON.stringify(body)).toContain('slips');
  });
});
