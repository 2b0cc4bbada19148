import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { strFromU8, unzipSync } from 'fflate';
import type { Schemas } from './world/schemas.js';
import { checkedReceipts, joinedStudent, releasedExercise, usedBy } from './world/class.js';
import { startWorld, until, type World } from './world/world.js';
import { type Visitor } from './world/visitor.js';
import { CASES, QUESTION, GOOD, TREE } from './world/model-cases.js';

describe('an exercise that asks for a model', () => {
  let world: World;
  let at: Awaited<ReturnType<typeof releasedExercise>>;
  let student: Visitor;
  beforeAll(async () => {
    world = await startWorld();
    at = await releasedExercise(world, { questions: [QUESTION], attempts: 4, feedback: 'rounded' }, CASES);
    ({ student } = await joinedStudent(world, at));
  });
  afterAll(() => world.stop());

  const handIn = (text: string | Uint8Array<ArrayBuffer>, name: string) =>
    student.upload<Schemas['ReceiptInfo']>(`${at.path}/submissions?question=q1&wait=50`, name, text, {
      'idempotency-key': `${name} ${text.length}`,
    });

  it('gives no held-out row away, neither in the pack nor in its rules', async () => {
    const pack = await student.call('GET', `${at.path}/pack`);
    const files = unzipSync(Buffer.from(pack.text, 'latin1'));
    expect(Object.keys(files)).not.toContain('held-out.csv');
    const given = new Set(strFromU8(files['training.csv'] ?? new Uint8Array()).match(/\bc\d+\b/g));
    expect(given.size).toBe(144);
    const sheet = JSON.stringify((await student.call('GET', at.path)).body);
    // A group of a UUID may look like an identifier.
    for (const id of [...(sheet.match(/(?<![\w-])c\d+(?![\w-])/g) ?? [])]) expect(given).toContain(id);
  });

  it('runs what is handed in, and shows what may be shown of it', async () => {
    const { body } = await handIn(GOOD, 'model.csv');
    expect(body.outcome).toBe('checked');
    expect(body.disclosed).toMatchObject({ kind: 'model', marks: null, judged: null });
    expect(body.disclosed?.scored?.final).toBeNull();
    expect(body.disclosed?.scored?.feedback?.score).toBeGreaterThan(0.8);
    expect(body.disclosed?.model?.training.score).toBeGreaterThan(0.8);
    const tree = await handIn(TREE, 'tree.pmml');
    expect(tree.body.disclosed?.model?.report.picture).toMatchObject({ kind: 'tree' });
  });

  it('refuses a withheld column, a bomb and an archive without using an attempt', async () => {
    const before = await usedBy(student, at.path);
    for (const [text, name] of [
      ['term,estimate\ny=yes,1\n', 'target.csv'],
      ['<!DOCTYPE x [<!ENTITY a "aaaa">]><PMML>&a;</PMML>', 'bomb.pmml'],
      ['PK\u0003\u0004 not a model', 'model.onnx'],
    ] as const) {
      const { body } = await handIn(text, name);
      expect(body).toMatchObject({ outcome: 'refused', disclosed: { holds: false, marks: null } });
    }
    expect(await usedBy(student, at.path)).toBe(before);
  });

  it('is tried by its instructor, corrected, and returned with the marks and what they rest on', async () => {
    const correction = {
      questions: [{ ...QUESTION, scheme: { ...QUESTION.scheme, marks: 20, mostMarks: 16 } }],
    };
    expect((await at.instructor.call('PUT', `${at.path}/correction`, correction)).status).toBeLessThan(300);
    await until(
      () => at.instructor.call<Schemas['CorrectionInfo']>('GET', `${at.path}/correction`),
      ({ body }) => body.state !== 'waiting',
    );
    const { body: info } = await at.instructor.call<Schemas['CorrectionInfo']>(
      'GET',
      `${at.path}/correction`,
    );
    expect(info.questions[0]?.line).toMatchObject({
      before: { marks: 10 },
      after: { marks: 20, mostMarks: 16 },
    });
    const note = { notice: 'It is worth 20 marks.', takenBack: [] };
    await at.instructor.call('POST', `${at.path}/correction/apply`, note);
    expect((await at.instructor.call('POST', `${at.path}/return`)).status).toBeLessThan(300);
    const receipts = await until(
      () => checkedReceipts(student, at.path, 5),
      (all) => all.some(({ disclosed }) => disclosed?.marks !== null && disclosed?.marks !== undefined),
    );
    const good = receipts.find(({ fileName }) => fileName === 'model.csv')?.disclosed;
    expect(good?.outOf).toBe(20);
    expect(good?.marks).toBeGreaterThan(8);
    expect(good?.judged?.map(({ check }) => check.id)).toEqual(['fit']);
  });

  it('can be tried before it is released', async () => {
    const { body: made } = await at.instructor.call<{ id: string }>('POST', `${at.course}/exercises`, {
      ...at.settings,
      title: 'Another',
    });
    const form = new FormData();
    form.set('file', new Blob([GOOD]), 'model.csv');
    const tried = await at.instructor.call<Schemas['TriedAnswer']>(
      'POST',
      `${at.course}/exercises/${made.id}/tries/q1`,
      form,
    );
    expect(tried.body.result).toMatchObject({ kind: 'model', holds: true });
    expect(tried.body.result.marks).toBeGreaterThan(4);
  });
});
