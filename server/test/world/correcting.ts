import type { Question } from '@modest-sieve/core/assessment';
import type { Schemas } from './schemas.js';
import { joinedStudent, releasedExercise } from './class.js';
import { until } from './world.js';

export type Of<K extends Question['kind']> = Extract<Question, { readonly kind: K }>;

export type At = Awaited<ReturnType<typeof releasedExercise>>;

export const shown = (at: At) =>
  at.instructor.call<Schemas['CorrectionInfo']>('GET', `${at.path}/correction`);

export const settled = (at: At) =>
  until(
    () => shown(at),
    ({ body }) => body.state !== 'waiting',
  );

export const begin = (at: At, questions: readonly Question[]) =>
  at.instructor.call('PUT', `${at.path}/correction`, { questions });

export const apply = (
  at: At,
  notice = 'The first statement was marked incorrectly.',
  takenBack: readonly string[] = [],
) => at.instructor.call('POST', `${at.path}/correction/apply`, { notice, takenBack });

/** One statement whose truth its instructor got wrong, and the same put right. */
export const WRONG: Of<'choice'> = {
  id: 'choice',
  kind: 'choice',
  title: 'Choice',
  text: '',
  marks: 3,
  values: { manner: 'each', credit: 'each' },
  statements: [
    { text: 'Folds overlap', truth: true },
    { text: 'Rows are tested once', truth: true },
    { text: 'Folds are drawn with replacement', truth: false },
  ],
};

export const RIGHT: Of<'choice'> = {
  ...WRONG,
  statements: [
    { text: 'Folds overlap', truth: false },
    { text: 'Rows are tested once', truth: true },
    { text: 'Folds are drawn with replacement', truth: false },
  ],
};

/** Answers by what the statements say: their names are assigned at random. */
export async function saying(
  student: Awaited<ReturnType<typeof joinedStudent>>['student'],
  at: At,
  overlap: boolean,
) {
  const { body } = await student.call<Schemas['ExerciseDetail']>('GET', at.path);
  const fields = body.sheets.find(({ id }) => id === 'choice')?.fields ?? [];
  return Object.fromEntries(
    fields.map(({ key, label }) => [
      key,
      String(label === 'Folds overlap' ? overlap : label === 'Rows are tested once'),
    ]),
  );
}
