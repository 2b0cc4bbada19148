import { unzipSync } from 'fflate';
import { until, Visitor } from './client.js';
import { overwinteringCsv } from './overwintering.js';
import { careful, exchanged, inPercent, quick } from './submissions.js';

const PASSWORD = 'hollow-lane-bees';
const INSTRUCTOR = { name: 'Ines Okafor', email: 'ines@hollow-lane.example' };
const STUDENTS = [
  { name: 'Tamsin Arkwright', email: 'tamsin@hollow-lane.example' },
  { name: 'Corin Haldane', email: 'corin@hollow-lane.example' },
  { name: 'Mirela Voss', email: 'mirela@hollow-lane.example' },
] as const;

const BRIEF = `The school visited its colonies in October. You have the records of most of them and what became of each in
spring. Say for the others how likely each is to **survive**.

Colonies of one apiary resemble one another: think about what that does to your validation.`;

const DAY = 24 * 3600 * 1000;

async function signUp(address: string, person: { name: string; email: string }): Promise<Visitor> {
  const visitor = new Visitor(address);
  await visitor.call('POST', '/people', { ...person, password: PASSWORD });
  return visitor;
}

/**
 * Fills an empty server with the demo course, through the public HTTP API.
 *
 * @returns what to tell the person who started the demo: the sign-ins
 */
export async function loadDemo(address: string): Promise<string> {
  const ines = await signUp(address, INSTRUCTOR);
  const { id: course } = await ines.call<{ id: string }>('POST', '/courses', {
    name: 'Learning from hive records',
    timeZone: 'Europe/London',
  });
  const exercise = await prepareExercise(ines, course);
  const { joinCode } = await ines.call<{ joinCode: string }>('GET', `/courses/${course}`);
  const files = [[inPercent, careful], [exchanged, quick], []] as const;
  for (const [i, student] of STUDENTS.entries()) {
    const visitor = await signUp(address, student);
    await visitor.call('POST', '/courses/join', { code: joinCode });
    const pack = unzipSync(
      await visitor.call<Uint8Array>('GET', `/courses/${course}/exercises/${exercise}/pack`),
    );
    for (const [attempt, make] of (files[i] ?? []).entries()) {
      const text = make(pack['held-out.csv'] ?? new Uint8Array());
      const path = `/courses/${course}/exercises/${exercise}/submissions`;
      await visitor.upload(path, `survival_v${attempt + 1}.csv`, text, {
        'idempotency-key': `demo-${attempt}`,
      });
      await until(
        () => visitor.call<{ outcome: string }[]>('GET', `/courses/${course}/exercises/${exercise}/receipts`),
        (receipts) => receipts.every((receipt) => receipt.outcome !== 'waiting'),
        'a check',
      );
    }
  }
  const lines = [INSTRUCTOR, ...STUDENTS].map(
    ({ name, email }, i) =>
      `  ${(i === 0 ? 'instructor' : 'student').padEnd(10)}  ${email.padEnd(30)}  ${PASSWORD}  (${name})`,
  );
  return `${lines.join('\n')}\n`;
}

async function prepareExercise(ines: Visitor, course: string): Promise<string> {
  await ines.upload(`/courses/${course}/data-sets`, 'overwintering.csv', overwinteringCsv());
  const [dataSet] = await until(
    async () =>
      (await ines.call<{ dataSets: { id: string }[] }>('GET', `/courses/${course}/data-sets`)).dataSets,
    (dataSets) => dataSets.length > 0,
    'the import',
  );
  const path = `/courses/${course}/data-sets/${dataSet?.id ?? ''}`;
  await ines.call('PUT', `${path}/roles`, {
    target: 'survived',
    task: 'binary',
    positive: 'yes',
    identifier: 'colony',
    group: 'apiary',
    withheld: ['spring_frames'],
  });
  const { id: splitId } = await ines.call<{ id: string }>('POST', `${path}/splits`, {
    shares: { training: 60, validation: 15, heldout: 25 },
    stratify: 'survived',
    group: 'apiary',
    seed: 2718,
  });
  const { id } = await ines.call<{ id: string }>('POST', `/courses/${course}/exercises`, {
    splitId,
    title: 'Which colonies will survive?',
    brief: BRIEF,
    metric: 'roc_auc',
    scheme: { nothing: 0.5, most: 0.78, all: 0.84, mostMarks: 8, marks: 10 },
    attempts: 5,
    counts: 'best',
    deadline: new Date(Math.ceil((Date.now() + 14 * DAY) / DAY) * DAY + 18 * 3600 * 1000).toISOString(),
    feedback: 'rounded',
  });
  await ines.call('POST', `/courses/${course}/exercises/${id}/release`);
  await until(
    () => ines.call<{ state: string; problem: unknown }>('GET', `/courses/${course}/exercises/${id}`),
    (exercise) => exercise.state !== 'packing',
    'the pack',
  );
  return id;
}
