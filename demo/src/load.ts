import type { SplitPlan } from '@modest-sieve/core';
import { unzipSync } from 'fflate';
import { until, Visitor } from './client.js';
import { INSTRUCTOR, PASSWORD, STUDENTS } from './sign-ins.js';
import { DEMO_TABLES, type DemoTable } from './tables.js';
import { careful, exchanged, frequent, inPercent, labels, probabilities, quick } from './submissions.js';

type MakeFile = (heldout: Uint8Array) => string;

/** One exercise of the demo: how its rows are parted, what is asked, and what each student hands in. */
interface Exercise {
  readonly split: SplitPlan;
  readonly settings: Readonly<Record<string, unknown>>;
  readonly dueInDays: number;
  /** Files by student, in the order of `STUDENTS`. */
  readonly files: readonly (readonly MakeFile[])[];
  readonly returned: boolean;
}

const drawn = (values: SplitPlan['values']): SplitPlan => ({
  kind: 'draw',
  values: { sized: 'percent', validation: 0, stratify: 'survived', group: '', ...values },
});

const EXERCISES: readonly Exercise[] = [
  {
    split: drawn({ training: 75, heldout: 25, seed: 314 }),
    settings: {
      title: 'A first try, parted at random',
      brief: `The held-out colonies were drawn at random, so that every apiary stands on both sides. Say **yes** or **no** for
each of them: did it survive?

Always saying yes is right for about 72 % of the colonies.`,
      metric: 'accuracy',
      scheme: { nothing: 0.72, most: 0.78, all: 0.82, mostMarks: 8, marks: 10 },
      attempts: 3,
      counts: 'last',
      feedback: 'after-return',
    },
    dueInDays: 2,
    files: [[labels(careful)], [labels(frequent), labels(quick)], [labels(frequent)]],
    returned: true,
  },
  {
    split: drawn({ training: 60, validation: 15, heldout: 25, group: 'apiary', seed: 2718 }),
    settings: {
      title: 'Which colonies will survive?',
      brief: `The school visited its colonies in October. You have the records of most of them and what became of each in
spring. Say for the others how likely each is to **survive**.

Colonies of one apiary resemble one another: think about what that does to your validation.`,
      metric: 'roc_auc',
      scheme: { nothing: 0.5, most: 0.78, all: 0.84, mostMarks: 8, marks: 10 },
      attempts: 5,
      counts: 'best',
      feedback: 'rounded',
    },
    dueInDays: 14,
    files: [[inPercent, probabilities(careful)], [probabilities(exchanged), probabilities(quick)], []],
    returned: false,
  },
];

const HOUR = 3600 * 1000;
const DAY = 24 * HOUR;

async function signUp(address: string, person: { name: string; email: string }): Promise<Visitor> {
  const visitor = new Visitor(address);
  await visitor.call('POST', '/people', { ...person, password: PASSWORD });
  return visitor;
}

/** Fills an empty server with the demo course, through the public HTTP API. */
export async function loadDemo(address: string): Promise<void> {
  const ines = await signUp(address, INSTRUCTOR);
  const { id } = await ines.call<{ id: string }>('POST', '/courses', {
    name: 'Learning from hive records',
    timeZone: 'Europe/London',
  });
  const course = `/courses/${id}`;
  const { joinCode } = await ines.call<{ joinCode: string }>('GET', course);
  const students = [];
  for (const student of STUDENTS) {
    const visitor = await signUp(address, student);
    await visitor.call('POST', '/courses/join', { code: joinCode });
    students.push(visitor);
  }
  const [first, ...others] = DEMO_TABLES;
  const dataSet = await bringTable(ines, course, first);
  for (const exercise of EXERCISES) {
    const path = await release(ines, course, dataSet, exercise);
    for (const [i, student] of students.entries()) await handIn(student, path, exercise.files[i] ?? []);
    if (exercise.returned) await ines.call('POST', `${path}/return`);
  }
  for (const table of others) {
    const path = await bringTable(ines, course, table);
    if (!table.split) continue;
    const { id: splitId } = await ines.call<{ id: string }>('POST', `${path}/splits`, table.split);
    if (table.folds) await ines.call('POST', `${path}/fold-sets`, { plan: table.folds, splitId });
  }
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

async function release(
  ines: Visitor,
  course: string,
  dataSet: string,
  { split, settings, dueInDays }: Exercise,
): Promise<string> {
  const { id: splitId } = await ines.call<{ id: string }>('POST', `${dataSet}/splits`, split);
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

async function handIn(student: Visitor, exercise: string, files: readonly MakeFile[]): Promise<void> {
  if (files.length === 0) return;
  const pack = unzipSync(await student.call<Uint8Array>('GET', `${exercise}/pack`));
  for (const [i, make] of files.entries()) {
    const text = make(pack['held-out.csv'] ?? new Uint8Array());
    await student.upload(`${exercise}/submissions`, `survival_v${i + 1}.csv`, text, {
      'idempotency-key': `demo-${i}`,
    });
    await until(
      () => student.call<{ outcome: string }[]>('GET', `${exercise}/receipts`),
      (receipts) => receipts.every((receipt) => receipt.outcome !== 'waiting'),
      'a check',
    );
  }
}
