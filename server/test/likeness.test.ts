import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Schemas } from './world/schemas.js';
import { hand, joinedStudent, predictionsBy, releasedExercise, VALUES } from './world/class.js';
import { startWorld, type World } from './world/world.js';

let world: World;

beforeAll(async () => {
  world = await startWorld();
});

afterAll(() => world.stop());

const QUESTIONS = [
  predictionsBy('roc_auc'),
  {
    ...VALUES,
    figures: { kind: 'confusion', values: { rows: 200, positive: 35, asked: ['precision', 'F1'] } },
    text: '{tp} of {positive}, {tn} of {negative}',
  },
];
/** A number between 0 and 1 of a row. */
const noiseOf = (id: string, by: number): number => {
  const noise = Math.sin(Number(id.slice(1)) * by) * 43_758.5453;
  return noise - Math.floor(noise);
};
const CASES = `id,x,y\n${Array.from({ length: 400 }, (_, i) => `c${i},${(i * 37) % 101},${noiseOf(`c${i}`, 12.9898) < 0.4 ? 'yes' : 'no'}`).join('\n')}\n`;

const fileOf = (identifiers: readonly string[], probability: (id: string, row: number) => number) =>
  `id,probability\n${identifiers.map((id, row) => `${id},${probability(id, row).toFixed(5)}`).join('\n')}\n`;

type Student = Awaited<ReturnType<typeof joinedStudent>>['student'];

/** What is right for the numbers that a student was given. */
async function rightFor(student: Student, path: string): Promise<Record<string, string>> {
  const { body } = await student.call<Schemas['ExerciseDetail']>('GET', path);
  const text = body.sheets.find(({ id }) => id === 'values')?.text ?? '';
  const [tp = 0, positive = 0, tn = 0, negative = 1] = (text.match(/\d+/g) ?? []).map(Number);
  const precision = tp / (tp + negative - tn);
  const recall = tp / positive;
  return {
    precision: precision.toFixed(5),
    f1: ((2 * precision * recall) / (precision + recall)).toFixed(5),
  };
}

describe('answers that are alike', () => {
  it('are found where they were passed on, told to staff alone, and none where nobody did', async () => {
    const at = await releasedExercise(world, { questions: QUESTIONS, feedback: 'after-return' }, CASES);
    const { student: sam, identifiers } = await joinedStudent(world, at);
    const { student: otto } = await joinedStudent(world, at, 'Otto Other');
    const { student: mina } = await joinedStudent(world, at, 'Mina More');
    const likeness = async (question: string) =>
      (await at.instructor.call<Schemas['LikenessInfo']>('GET', `${at.path}/class/${question}/likeness`))
        .body;
    await hand(sam, at.path, 'values', { fields: await rightFor(sam, at.path) });
    await hand(mina, at.path, 'values', { fields: { precision: '0.51234', f1: '0.43219' } });
    await hand(sam, at.path, 'q1', { file: fileOf(identifiers, (id) => noiseOf(id, 7.1)) });
    await hand(mina, at.path, 'q1', { file: fileOf(identifiers, (id) => noiseOf(id, 9.7)) });
    expect(await likeness('values')).toMatchObject({
      compared: 2,
      typed: { compared: 1, found: [] },
      same: [],
    });
    expect(await likeness('q1')).toMatchObject({ compared: 2, files: [], typed: null, same: [] });
    // What is right for Sam, and Sam's file with three rows written over.
    await hand(otto, at.path, 'values', { fields: await rightFor(sam, at.path) });
    const edited = (id: string, row: number) => (noiseOf(id, 7.1) + (row % 40 === 5 ? 0.5 : 0)) % 1;
    await hand(otto, at.path, 'q1', { file: fileOf(identifiers, edited) });
    await hand(mina, at.path, 'q1', { file: fileOf(identifiers, (id) => noiseOf(id, 7.1)) });
    const typed = (await likeness('values')).typed;
    expect(typed?.found).toHaveLength(1);
    const { body: view } = await at.instructor.call<Schemas['ClassView']>('GET', `${at.path}/class`);
    const idOf = (name: string) => view.lines.find(({ person }) => person.name === name)?.person.id;
    expect(typed?.found[0]).toMatchObject({ student: idOf('Otto Other'), other: idOf('Sam Student') });
    const { files, same } = await likeness('q1');
    expect(files).toHaveLength(2);
    expect(files?.[0]?.rows[0]?.identifier).toBe(identifiers[5]);
    expect(same).toHaveLength(1);
    for (const student of [sam, otto])
      expect((await student.call('GET', `${at.path}/class/q1/likeness`)).status).toBe(404);
    expect((await at.instructor.call('GET', `${at.path}/class/q9/likeness`)).status).toBe(404);
  });
});
