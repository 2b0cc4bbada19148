import { expect } from '@jest/globals';
import type { Question } from '@modest-sieve/core/assessment';
import type { Schemas } from './schemas.js';
import { type Reply, Visitor } from './visitor.js';
import { type World, asOwner, until } from './world.js';

/** A course of an instructor with one table, imported: the addresses of both. */
export async function courseWithTable(
  instructor: Visitor,
  file: string,
  csv: string,
): Promise<{ course: string; dataSet: string }> {
  const { body } = await instructor.call<{ id: string }>('POST', '/courses', {
    name: 'Course',
    timeZone: 'UTC',
  });
  const course = `/courses/${body.id}`;
  await instructor.upload(`${course}/data-sets`, file, csv);
  const list = await until(
    () => instructor.call<Schemas['DataSetList']>('GET', `${course}/data-sets`),
    (answer) => answer.body.dataSets.length > 0,
  );
  return { course, dataSet: `${course}/data-sets/${list.body.dataSets[0]?.id ?? ''}` };
}

/** Cases with an identifier, a feature and a class; in the 60 of most tests every value of `x` is its own. */
const tableOfCases = (n: number): string =>
  `id,x,y\n${Array.from({ length: n }, (_, i) => `c${i},${((i * 37) % 61) / 10},${i % 3 === 0 ? 'yes' : 'no'}`).join('\n')}\n`;

export const HOUR = 3600 * 1000;

/** The question of predictions that most tests ask. */
export const predictionsBy = (metric: string): Extract<Question, { kind: 'predictions' }> => ({
  id: 'q1',
  kind: 'predictions',
  title: 'Predict y',
  text: '',
  metric,
  scheme: { nothing: 0.5, most: 0.8, all: 0.9, mostMarks: 8, marks: 10, doubt: false },
});

/** An exercise on a split as most tests set it: by accuracy, due in an hour. */
/** Figures of each student's own. */
export const VALUES: Extract<Question, { kind: 'values' }> = {
  id: 'values',
  kind: 'values',
  title: 'Values',
  text: '',
  marks: 4,
  figures: { kind: 'confusion', values: { rows: 200, positive: 35, asked: ['precision'] } },
  tolerance: { kind: 'digits', values: { decimals: 3 } },
};

export const settingsOf = (splitId: string) => ({
  splitId,
  title: 'Predict y',
  brief: 'Predict **y**.',
  questions: [predictionsBy('accuracy')],
  attempts: 3,
  counts: 'best',
  deadline: new Date(Date.now() + HOUR).toISOString(),
  feedback: 'rounded',
});

/** A course of a new instructor with one released exercise. */
export async function releasedExercise(
  world: Pick<World, 'address'>,
  over: Partial<Schemas['ExerciseSettings']> = {},
  table = tableOfCases(60),
) {
  const instructor = await new Visitor(world.address).signUp('Ada Instructor');
  const { body: made } = await instructor.call<{ id: string }>('POST', '/courses', {
    name: 'Test course',
    timeZone: 'Europe/London',
  });
  const course = `/courses/${made.id}`;
  await instructor.upload(`${course}/data-sets`, 'cases.csv', table);
  const list = await until(
    () => instructor.call<Schemas['DataSetList']>('GET', `${course}/data-sets`),
    ({ body }) => body.dataSets.length > 0,
  );
  const dataSet = `${course}/data-sets/${list.body.dataSets[0]?.id ?? ''}`;
  await instructor.call('PUT', `${dataSet}/roles`, {
    target: 'y',
    task: 'binary',
    positive: 'yes',
    identifier: 'id',
    group: null,
    time: null,
    weight: null,
    withheld: [],
  });
  const plan = {
    kind: 'draw',
    values: { sized: 'percent', training: 60, validation: 0, heldout: 40, stratify: 'y', group: '', seed: 3 },
  };
  const { body: split } = await instructor.call<{ id: string }>('POST', `${dataSet}/splits`, plan);
  const settings = { ...settingsOf(split.id), ...over };
  const { body: exercise } = await instructor.call<{ id: string }>('POST', `${course}/exercises`, settings);
  const path = `${course}/exercises/${exercise.id}`;
  await instructor.call('POST', `${path}/release`, { reason: 'The table is made up.' });
  const { body: released } = await until(
    () => instructor.call<Schemas['ExerciseDetail']>('GET', path),
    ({ body }) => body.state === 'released' || body.problem !== null,
  );
  if (released.problem) throw new Error(`not released: ${released.problem.message}`);
  const { body: detail } = await instructor.call<Schemas['CourseDetail']>('GET', course);
  return {
    instructor,
    course,
    dataSet,
    split,
    settings,
    path,
    exerciseId: exercise.id,
    joinCode: detail.joinCode ?? '',
  };
}

/** A student who has joined, and the rules of the exercise as they may know them. */
export async function joinedStudent(
  world: Pick<World, 'address'>,
  at: { course: string; path: string; joinCode: string },
  name = 'Sam Student',
) {
  const student = await new Visitor(world.address).signUp(name);
  await student.call('POST', '/courses/join', { code: at.joinCode });
  const { body } = await student.call<Schemas['ExerciseDetail']>('GET', at.path);
  if (!('sheets' in body)) throw new Error(`no exercise for a student: ${JSON.stringify(body)}`);
  const lists = await Promise.all(
    body.sheets
      .filter(({ fileAbout }) => fileAbout !== null)
      .map(({ id }) => student.call<Schemas['FileRules']>('GET', `${at.path}/questions/${id}/rules`)),
  );
  const [rules] = lists.flatMap(({ body: { rules: one } }) =>
    'needs' in one && 'identifiers' in one ? [one] : [],
  );
  const identifiers = rules?.identifiers ?? [];
  return { student, identifiers };
}

/** Somebody who has accepted an invitation to a course, in the role that it names. */
export async function invitedMember(
  world: Pick<World, 'address'>,
  at: { course: string; instructor: Visitor },
  role: 'student' | 'assistant' | 'instructor',
  name: string,
): Promise<Visitor> {
  const visitor = await new Visitor(world.address).signUp(name);
  const { body } = await at.instructor.call<{ path: string }>('POST', `${at.course}/invitations`, {
    email: visitor.email,
    name,
    role,
  });
  await visitor.call('POST', `${body.path.replace('/invitation/', '/invitations/')}/accept`);
  return visitor;
}

/** Somebody who administers the server, as its command makes them. */
export async function administratorOf(world: Pick<World, 'address'>): Promise<Visitor> {
  const visitor = await new Visitor(world.address).signUp('Olive Administrator');
  await asOwner('UPDATE identity.person SET is_administrator = true WHERE email = $1', [visitor.email]);
  return visitor;
}

/** Predictions of every row: right ones for the given share of them. */
export const fileFor = (identifiers: readonly string[], label: (id: string) => string): string =>
  `id,prediction\n${identifiers.map((id) => `${id},${label(id)}`).join('\n')}\n`;

/** What became of a case, which only these tests know. */
export const truthOf = (id: string): string => (Number(id.slice(1)) % 3 === 0 ? 'yes' : 'no');

/** A student's receipts, each opened, the latest first. */
export async function receiptsOf(student: Visitor, path: string) {
  const listed: Schemas['OwnReceipt'][] = [];
  for (let before = ''; ;) {
    const { body } = await student.call<Schemas['ReceiptPage']>('GET', `${path}/receipts${before}`);
    listed.push(...body.receipts);
    if (body.next === null) break;
    before = `?before=${body.next}`;
  }
  const opened = listed.map(({ id }) =>
    student.call<Schemas['ReceiptInfo']>('GET', `${path}/receipts/${id}`),
  );
  return { body: (await Promise.all(opened)).map(({ body }) => body) };
}

export const checkedReceipts = (student: Visitor, path: string, n = 1) =>
  until(
    async () => (await receiptsOf(student, path)).body,
    (receipts) => receipts.length >= n && receipts.every((receipt) => receipt.outcome !== 'waiting'),
  );

/** Attempts at the first question that a student has used. */
export const usedBy = async (student: Visitor, path: string): Promise<number | undefined> =>
  (await student.call<Schemas['ExerciseDetail']>('GET', path)).body.sheets[0]?.used;

/** A hand-in was taken: its answer says that it waits, or is the receipt where the check was done before the answer went out. */
export const expectTaken = ({ status, body }: Reply<{ readonly outcome?: string }>): void => {
  expect(body.outcome).toBeDefined();
  expect(status).toBe(body.outcome === 'waiting' ? 202 : 200);
};

/** What is handed in to one question. */
export type Hand = { readonly file?: string; readonly fields?: Readonly<Record<string, string>> };

/** Hands in to a question, and waits for the receipt. */
export async function hand(student: Visitor, path: string, question: string, { file, fields }: Hand) {
  const form = new FormData();
  if (file !== undefined) form.set('file', new Blob([file]), 'answer.csv');
  if (fields) form.set('fields', JSON.stringify(fields));
  return student.call<Schemas['ReceiptInfo']>(
    'POST',
    `${path}/submissions?question=${question}&wait=30`,
    form,
  );
}
