import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { unzipSync, strFromU8 } from 'fflate';
import type { Schemas } from './world/schemas.js';
import { startWorld, type World } from './world/world.js';
import { fileFor, hand, invitedMember, joinedStudent, releasedExercise, truthOf } from './world/class.js';
import type { Visitor } from './world/visitor.js';

let world: World;

beforeAll(async () => {
  world = await startWorld();
});

afterAll(() => world.stop());

/** An exercise with a student who has all marks, and one who handed in nothing; `=SUM` begins the first one's name. */
async function course() {
  const at = await releasedExercise(world);
  const able = await joinedStudent(world, at, '=SUM Able');
  const idle = await joinedStudent(world, at, 'Ida Idle');
  await hand(able.student, at.path, 'q1', { file: fileFor(able.identifiers, truthOf) });
  const read = async () =>
    (await at.instructor.call<Schemas['Gradebook']>('GET', `${at.course}/gradebook`)).body;
  const own = async (student: Visitor) =>
    (await student.call<Schemas['OwnGrades']>('GET', `${at.course}/marks`)).body;
  const of = (book: Schemas['Gradebook'], name: string) => {
    const found = book.students.find((student) => student.name === name);
    if (!found) throw new Error(`no ${name}`);
    return found;
  };
  return { at, able, idle, read, own, of };
}

const SHEETS = { name: 'Sheets', weight: 60, drop: 0 };

describe('a gradebook', () => {
  it('makes totals of what is returned, in the same words for staff and student', async () => {
    const { at, able, idle, read, own, of } = await course();
    const open = await read();
    expect(open.exercises).toMatchObject([
      { title: 'Predict y', marks: 10, marked: 1, mean: 10, median: 10 },
    ]);
    expect(of(open, '=SUM Able')).toMatchObject({ cells: [{ marks: 10 }], total: { share: null } });
    // Nothing of it is a student's to see before the return.
    expect(await own(able.student)).toEqual({
      exercises: [],
      total: { share: null, steps: [], dropped: [] },
    });
    await at.instructor.call('POST', `${at.path}/return`);
    const returned = await read();
    expect(of(returned, '=SUM Able').total.share).toBe(1);
    expect(of(returned, 'Ida Idle').total).toMatchObject({ share: 0 });
    for (const [visitor, name] of [
      [able.student, '=SUM Able'],
      [idle.student, 'Ida Idle'],
    ] as const) {
      const { total, exercises } = await own(visitor);
      expect(total).toEqual(of(returned, name).total);
      expect(exercises).toHaveLength(1);
    }
  });

  it('weighs exercises as the instructor says, and leaves out what a student is excused from', async () => {
    const { at, idle, read, own, of } = await course();
    await at.instructor.call('POST', `${at.path}/return`);
    const put = (plan: object) => at.instructor.call('PUT', `${at.course}/gradebook/plan`, plan);
    const exercises = [{ exercise: at.exerciseId, category: 'Sheets', weight: 2 }];
    expect((await put({ categories: [SHEETS], exercises })).status).toBe(204);
    expect((await own(idle.student)).total.steps).toEqual([
      'Sheets: Predict y not handed in, 0 of 10, weight 2. Together 0 %.',
    ]);
    expect((await put({ categories: [{ ...SHEETS, weight: 0 }], exercises: [] })).body).toMatchObject({
      code: 'grade-plan',
      place: { field: 'categories.0.weight' },
    });
    expect((await put({ categories: [{ ...SHEETS, weight: 'x' }], exercises: [] })).status).toBe(400);
    const elsewhere = await releasedExercise(world);
    const foreign = [{ exercise: elsewhere.exerciseId, category: '', weight: 1 }];
    expect((await put({ categories: [], exercises: foreign })).status).toBe(404);
    const { id } = of(await read(), 'Ida Idle');
    const excuse = (excused: boolean) =>
      at.instructor.call('PUT', `${at.course}/gradebook/excused/${at.exerciseId}/${id}`, { excused });
    expect((await excuse(true)).status).toBe(204);
    expect(of(await read(), 'Ida Idle')).toMatchObject({
      cells: [{ excused: true }],
      total: { share: null, steps: ['Excused, and not counted: Predict y.'] },
    });
    expect((await own(idle.student)).exercises).toMatchObject([{ excused: true, marks: null }]);
    expect((await excuse(false)).status).toBe(204);
    expect(of(await read(), 'Ida Idle').total.share).toBe(0);
    // An assistant reads it, and changes nothing.
    const aki = await invitedMember(world, at, 'assistant', 'Aki Assistant');
    expect((await aki.call('PUT', `${at.course}/gradebook/plan`, { categories: [], exercises })).status).toBe(
      404,
    );
  });

  it('has sections', async () => {
    const { at, read, of } = await course();
    const { id } = of(await read(), 'Ida Idle');
    const set = (section: string | null) =>
      at.instructor.call('PUT', `${at.course}/people/${id}/section`, { section });
    expect((await set('Tuesday')).status).toBe(204);
    expect(of(await read(), 'Ida Idle').section).toBe('Tuesday');
    const { body: view } = await at.instructor.call<Schemas['ClassView']>('GET', `${at.path}/class`);
    expect(view.lines.map(({ person, section }) => [person.name, section])).toEqual([
      ['=SUM Able', null],
      ['Ida Idle', 'Tuesday'],
    ]);
    expect((await set('')).status).toBe(400);
    expect((await set('  ')).status).toBe(400);
    expect((await set(null)).status).toBe(204);
    expect(of(await read(), 'Ida Idle').section).toBeNull();
  });

  it('is exported as CSV, as a workbook and for other programs, without formulas', async () => {
    const { at } = await course();
    await at.instructor.call('POST', `${at.path}/return`);
    const bytesOf = async (name: string) => {
      const response = await fetch(`${world.address}/api/v1${at.course}/${name}`, {
        headers: { cookie: at.instructor.cookie },
      });
      expect(response.status).toBe(200);
      return new Uint8Array(await response.arrayBuffer());
    };
    const csv = strFromU8(await bytesOf('gradebook.csv')).split('\n');
    expect(csv[0]).toBe('"name","address","section","Predict y (of 10)","total in percent"');
    expect(csv.find((line) => line.includes('Able'))).toMatch(/^"'=SUM Able",.*,,10,100$/);
    const workbook = unzipSync(await bytesOf('gradebook.xlsx'));
    const sheets = Object.entries(workbook).filter(([name]) => name.startsWith('xl/worksheets/sheet'));
    expect(sheets).toHaveLength(2);
    for (const [, sheet] of sheets) expect(strFromU8(sheet)).not.toMatch(/<f[ >]/);
    expect(strFromU8(workbook['xl/sharedStrings.xml'] ?? new Uint8Array())).toContain('=SUM Able');
    const roster = unzipSync(await bytesOf('gradebook-oneroster.zip'));
    const results = strFromU8(roster['results.csv'] ?? new Uint8Array());
    expect(results).toContain('"fully graded",10,');
    expect(results).toContain('"not submitted",');
  });
});
