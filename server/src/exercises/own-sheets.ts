import type { Secret } from '@modest-sieve/core/foundation';
import type { ReleasedQuestion } from '@modest-sieve/core/assessment';
import type { EntityManager } from 'typeorm';
import { announce } from '../platform/events/announce.js';
import type { ExerciseRecord } from './exercise.entity.js';
import { OwnSheetRecord } from './secret.entity.js';
import { isPersonal, personalSheet } from './sheets.js';

/** Rows that one statement writes. */
const AT_ONCE = 200;

/** Writes the sheets of some students to the questions that are personal; those that are there stay. */
export async function keepOwnSheets(
  manager: EntityManager,
  { id: exerciseId, courseId }: Pick<ExerciseRecord, 'id' | 'courseId'>,
  {
    questions,
    secret,
    people,
  }: {
    readonly questions: readonly ReleasedQuestion[];
    readonly secret: Secret;
    readonly people: readonly string[];
  },
): Promise<void> {
  const rows = people.flatMap((personId) =>
    questions.filter(isPersonal).map((question) => ({
      exerciseId,
      personId,
      question: question.id,
      sheet: personalSheet(question, secret, personId),
    })),
  );
  for (let from = 0; from < rows.length; from += AT_ONCE)
    await manager
      .createQueryBuilder()
      .insert()
      .into(OwnSheetRecord)
      .values(rows.slice(from, from + AT_ONCE))
      .orIgnore()
      .execute();
  for (const personId of people) await announce(manager, { courseId, to: personId, about: 'exercises' });
}
