import type { SplitPlan } from '@modest-sieve/core/splitting';
import { unzipSync } from 'fflate';
import { until, Visitor } from './client.js';
import { CLASSMATES } from './classmates.js';
import { ADMINISTRATOR, INSTRUCTOR, PASSWORD, STUDENTS } from './sign-ins.js';
import { DEMO_TABLES } from './tables.js';
import type { DemoTable } from './demo-table.js';
import { startTrials, type Folded } from './trials.js';
import { BY_APIARY, type DemoAnswer, type DemoExercise } from './exercise-parts.js';
import type { Sheet } from './submissions.js';
import { DEMO_EXERCISES } from './exercises.js';

const HOUR = 3600 * 1000;
const DAY = 24 * HOUR;

async function signUp(address: string, person: { name: string; email: string }): Promise<Visitor> {
  const visitor = new Visitor(address);
  await visitor.call('POST', '/people', { ...person, password: PASSWORD });
  return visitor;
}

/** Makes the administrator of the server, who lets the instructor make courses. */
async function allowCourses(address: string, link: string): Promise<void> {
  const olive = await signUp(address, ADMINISTRATOR);
  await olive.call('POST', link.replace('/administrator/', '/administrator-links/'));
  const [ines] = await olive.call<{ id: string }[]>(
    'GET',
    `/administration/people?search=${encodeURIComponent(INSTRUCTOR.email)}`,
  );
  await olive.call('PUT', `/administration/people/${ines?.id ?? ''}`, { makesCourses: true });
}

/**
 * Fills an empty server with the demo course, through the public HTTP API.
 *
 * @param link that makes the first administrator, as the start of the server prints it
 * @param whole whether to wait for the models that no exercise needs
 */
export async function loadDemo(address: string, link: string, whole: boolean): Promise<void> {
  const ines = await signUp(address, INSTRUCTOR);
  await allowCourses(address, link);
  const { id } = await ines.call<{ id: string }>('POST', '/courses', {
    name: 'Learning from hive records',
    timeZone: 'Europe/London',
  });
  const course = `/courses/${id}`;
  const { joinCode } = await ines.call<{ joinCode: string }>('GET', course);
  const students = [];
  for (const student of [...STUDENTS, ...CLASSMATES]) {
    const visitor = await signUp(address, { name: student.name, email: student.email });
    await visitor.call('POST', '/courses/join', { code: joinCode });
    students.push(visitor);
  }
  const [first, ...others] = DEMO_TABLES;
  const dataSet = await bringTable(ines, course, first);
  const splits = new Map<string, string>();
  // Marks and verdicts of exercises stand on the reference runs.
  const ofFirst = await keepFolds(ines, dataSet, await splitBy(ines, dataSet, BY_APIARY, splits), first);
  await tryReferences(ines, ofFirst);
  const folded = [ofFirst];
  const handIns: Promise<unknown>[] = [];
  const returned: string[] = [];
  for (const exercise of DEMO_EXERCISES) {
    const path = await release(ines, course, dataSet, exercise, splits);
    // The class hands in while the next exercise is released.
    handIns.push(Promise.all(students.map((student, i) => handIn(student, path, exercise.answers[i] ?? []))));
    if (exercise.returned) returned.push(path);
  }
  await Promise.all(handIns);
  for (const path of returned) await ines.call('POST', `${path}/return`);
  await keepGradebook(ines, course);
  for (const table of others) {
    const path = await bringTable(ines, course, table);
    if (!table.split) continue;
    const { id: splitId } = await ines.call<{ id: string }>('POST', `${path}/splits`, table.split);
    const own = await keepFolds(ines, path, splitId, table);
    folded.push(own);
    await tryReferences(ines, own);
  }
  // The other models are tried while people look around.
  for (const own of folded) {
    const trials = await startTrials(ines, own, false);
    if (whole) for (const id of trials) await tried(ines, own, id);
  }
}

/** Sections, what counts how much, and somebody who was ill. */
async function keepGradebook(ines: Visitor, course: string): Promise<void> {
  const people = await ines.call<{ id: string; name: string; role: string }[]>('GET', `${course}/people`);
  const students = people.filter(({ role }) => role === 'student');
  for (const [i, { id }] of students.entries())
    await ines.call('PUT', `${course}/people/${id}/section`, {
      section: i % 2 === 0 ? 'Tuesday' : 'Thursday',
    });
  const { exercises } = await ines.call<{ exercises: { id: string; title: string; marks: number }[] }>(
    'GET',
    `${course}/gradebook`,
  );
  const [sheets, project] = ['Exercises', 'Model'];
  const isProject = (title: string) => title.startsWith('Hand in the model');
  await ines.call('PUT', `${course}/gradebook/plan`, {
    categories: [
      { name: sheets, weight: 70, drop: 1 },
      { name: project, weight: 30, drop: 0 },
    ],
    exercises: exercises.map(({ id, title, marks }) => ({
      exercise: id,
      category: isProject(title) ? project : sheets,
      weight: marks,
    })),
  });
  const ill = students.find(({ name }) => name === 'Tobias Crane');
  const missed = exercises.find(({ title }) => title === 'A first try');
  await ines.call('PUT', `${course}/gradebook/excused/${missed?.id ?? ''}/${ill?.id ?? ''}`, {
    excused: true,
  });
}

/** Keeps folds of a split's training rows. */
async function keepFolds(ines: Visitor, dataSet: string, splitId: string, table: DemoTable): Promise<Folded> {
  const { id } = await ines.call<{ id: string }>('POST', `${dataSet}/fold-sets`, {
    plan: table.folds,
    splitId,
  });
  return { dataSet, foldSetId: id, table };
}

/** Tries the reference models of a table and offers them to exercises. */
async function tryReferences(ines: Visitor, folded: Folded): Promise<void> {
  for (const id of await startTrials(ines, folded, true)) {
    const trial = await tried(ines, folded, id);
    await ines.call('PUT', `${trial}/reference`, { isReference: true });
  }
}

/** Where the API has a trial, once it is done. */
async function tried(ines: Visitor, { dataSet }: Folded, id: string): Promise<string> {
  const trial = `${dataSet}/trials/${id}`;
  const { state } = await until(
    () => ines.call<{ state: string }>('GET', trial),
    ({ state: now }) => now !== 'waiting',
    'a trial',
  );
  if (state !== 'done') throw new Error('a trial of the demo failed');
  return trial;
}

/** Imports a table, says what its columns are for, and keeps its preparation as a version. */
async function bringTable(
  ines: Visitor,
  course: string,
  { file, csv, roles, descriptions, steps }: DemoTable,
): Promise<string> {
  await ines.upload(`${course}/data-sets`, file, csv());
  const name = file.replace('.csv', '').replaceAll('-', ' ');
  const named = (dataSets: readonly { id: string; name: string }[]) =>
    dataSets.find((dataSet) => dataSet.name.toLowerCase() === name);
  const dataSets = await until(
    async () =>
      (await ines.call<{ dataSets: { id: string; name: string }[] }>('GET', `${course}/data-sets`)).dataSets,
    (answer) => named(answer) !== undefined,
    `the import of ${file}`,
  );
  const path = `${course}/data-sets/${named(dataSets)?.id ?? ''}`;
  await ines.call('PUT', `${path}/roles`, roles);
  await ines.call('PATCH', `${path}/descriptions`, { descriptions });
  await ines.call('POST', `${path}/versions`, { steps });
  await until(
    () => ines.call<{ version: number }>('GET', path),
    ({ version }) => version === 2,
    `the prepared version of ${file}`,
  );
  return path;
}

/** The split of a plan, kept once. */
async function splitBy(
  ines: Visitor,
  dataSet: string,
  split: SplitPlan,
  splits: Map<string, string>,
): Promise<string> {
  const plan = JSON.stringify(split);
  const id = splits.get(plan) ?? (await ines.call<{ id: string }>('POST', `${dataSet}/splits`, split)).id;
  splits.set(plan, id);
  return id;
}

async function release(
  ines: Visitor,
  course: string,
  dataSet: string,
  { split, settings, dueInDays }: DemoExercise,
  splits: Map<string, string>,
): Promise<string> {
  const splitId = await splitBy(ines, dataSet, split, splits);
  // At six in the evening, in winter time.
  const deadline = new Date(Math.ceil((Date.now() + dueInDays * DAY) / DAY) * DAY + 18 * HOUR).toISOString();
  const { id } = await ines.call<{ id: string }>('POST', `${course}/exercises`, {
    ...settings,
    splitId,
    deadline,
  });
  const path = `${course}/exercises/${id}`;
  await ines.call('POST', `${path}/release`);
  const { state, problem } = await until(
    () => ines.call<{ state: string; problem: { message: string } | null }>('GET', path),
    (exercise) => exercise.state !== 'packing',
    'the pack',
  );
  if (state !== 'released')
    throw new Error(`the demo exercise was not released: ${problem?.message ?? state}`);
  return path;
}

async function handIn(student: Visitor, exercise: string, answers: readonly DemoAnswer[]): Promise<void> {
  if (answers.length === 0) return;
  const pack = unzipSync(await student.call<Uint8Array>('GET', `${exercise}/pack`));
  const { sheets } = await student.call<{ sheets: (Sheet & { id: string })[] }>('GET', exercise);
  for (const [i, { question, file, fields, ending = 'csv' }] of answers.entries()) {
    const sheet = sheets.find(({ id }) => id === question);
    const form = new FormData();
    if (file) form.set('file', new Blob([file(pack)]), `hives_v${i + 1}.${ending}`);
    if (fields && sheet) form.set('fields', JSON.stringify(fields(sheet, pack)));
    const { outcome } = await student.call<{ outcome: string }>(
      'POST',
      `${exercise}/submissions?question=${question}&wait=60`,
      form,
      { 'idempotency-key': `demo-${i}` },
    );
    if (outcome === 'waiting' || outcome === 'failed') throw new Error(`an answer of the demo is ${outcome}`);
  }
}
