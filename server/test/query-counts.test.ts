import { afterAll, beforeAll, expect, it } from '@jest/globals';
import pg from 'pg';
import {
  fileFor,
  hand,
  joinedStudent,
  predictionsBy,
  releasedExercise,
  truthOf,
  VALUES,
} from './world/class.js';
import type { Schemas } from './world/schemas.js';
import { until, startWorld, type World } from './world/world.js';

/** Statements that the connections of requests have sent; a worker’s own and those of its jobs are not counted. */
let sent = 0;
const OF_REQUESTS = /^modest-sieve (identity|student|staff)$/;
const { query } = Object.getOwnPropertyDescriptors(pg.Client.prototype);

let world: World;
beforeAll(async () => {
  const original = query.value as (...given: unknown[]) => unknown;
  Object.defineProperty(pg.Client.prototype, 'query', {
    ...query,
    value(this: { connectionParameters: { application_name?: string } }, ...given: unknown[]) {
      if (OF_REQUESTS.test(this.connectionParameters.application_name ?? '')) sent++;
      return original.apply(this, given);
    },
  });
  world = await startWorld();
});
afterAll(async () => {
  await world.stop();
  Object.defineProperty(pg.Client.prototype, 'query', query);
});

/** Statements at most of what a student’s pages ask for, and of what an instructor’s do; three of each find out who asks. */
const STUDENTS = {
  '/session': 4,
  '{course}': 5,
  '{course}/exercises': 5,
  '{exercise}': 8,
  '{exercise}/questions/q1/rules': 5,
  '{exercise}/receipts': 5,
  '{exercise}/receipts/{receipt}': 4,
  '{course}/marks': 7,
};
const INSTRUCTORS = {
  '{course}/exercises': 5,
  '{exercise}': 15,
  '{course}/data-sets': 5,
  '{dataSet}': 21,
  '{dataSet}/trials': 5,
  '{course}/people': 5,
  '{course}/jobs': 4,
  '{course}/gradebook': 9,
  '{exercise}/class': 13,
  '{exercise}/class/q1/answers': 15,
  '{exercise}/class/q1/likeness': 16,
  '{exercise}/wear/q1': 9,
  '{exercise}/submissions/{receipt}': 12,
};

it('pages ask for as many queries of a class as of one student, and at most for those that are written down here', async () => {
  const questions = [predictionsBy('accuracy'), VALUES];
  const at = await releasedExercise(world, { questions });
  const { student, identifiers } = await joinedStudent(world, at);
  const file = (right: number) =>
    fileFor(identifiers, (id) => (identifiers.indexOf(id) < right ? truthOf(id) : 'no'));
  const { body: receipt } = await hand(student, at.path, 'q1', { file: file(20) });
  const { course, dataSet, path: exercise } = at;
  const places: Record<string, string> = { course, dataSet, exercise, receipt: receipt.id };
  const asked = [
    ...Object.entries(STUDENTS).map(([path, most]) => ({ who: student, path, most })),
    ...Object.entries(INSTRUCTORS).map(([path, most]) => ({ who: at.instructor, path, most })),
  ];
  const counted = async () => {
    const found: Record<string, number> = {};
    for (const { who, path } of asked) {
      const address = path.replace(/\{(\w+)\}/g, (_, name: string) => places[name] ?? '');
      sent = 0;
      const { status } = await who.call('GET', address);
      expect([address, status]).toEqual([address, 200]);
      found[`${who === student ? 'student' : 'instructor'} ${path}`] = sent;
    }
    return found;
  };

  const ofOne = await counted();
  await hand(student, at.path, 'q1', { file: file(15) });
  for (const i of [1, 2, 3, 4]) {
    const { student: other } = await joinedStudent(world, at, `Student ${i}`);
    await hand(other, at.path, 'q1', { file: file(10 + i) });
    await hand(other, at.path, 'q1', { file: file(5 + i) });
    await hand(other, at.path, 'values', { fields: { precision: '0.5' } });
  }
  for (const title of ['Second', 'Third']) {
    const settings = { ...at.settings, title };
    const { body: made } = await at.instructor.call<{ id: string }>(
      'POST',
      `${at.course}/exercises`,
      settings,
    );
    const path = `${at.course}/exercises/${made.id}`;
    await at.instructor.call('POST', `${path}/release`, { reason: 'The table is made up.' });
    await until(
      () => at.instructor.call<Schemas['ExerciseDetail']>('GET', path),
      ({ body }) => body.state === 'released',
    );
  }
  const ofFive = await counted();

  expect(ofFive).toEqual(ofOne);
  for (const { who, path, most } of asked) {
    const name = `${who === student ? 'student' : 'instructor'} ${path}`;
    expect([name, Math.max(most, ofFive[name] ?? NaN)]).toEqual([name, most]);
  }
});
