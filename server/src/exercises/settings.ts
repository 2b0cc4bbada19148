import type { Roles } from '@modest-sieve/core/data';
import { checkQuestions, marksOf, type Question } from '@modest-sieve/core/assessment';
import type { EntityManager } from 'typeorm';
import type { ExerciseSettings } from '../api/api.js';
import type { Caller } from '../platform/access/access.js';
import { Problem } from '../platform/errors/problem.js';
import { DataSetRecord, RolesRecord, VersionRecord } from '../store/dataset.entity.js';
import { FoldSetRecord, SplitRecord } from '../store/split.entity.js';

/** @throws Problem, SieveError with the setting that does not fit */
export async function checkSettings(
  caller: Caller,
  settings: Omit<ExerciseSettings, 'title' | 'brief'>,
): Promise<void> {
  const { foldSetId, splitId, questions, opensAt, deadline } = settings;
  await checkQuestionsOn(caller, splitId, questions);
  if (opensAt !== null && new Date(opensAt) >= new Date(deadline))
    throw new Problem(422, 'opens-at', 'It opens after its deadline. Set an earlier time.', {
      field: 'opensAt',
    });
  if (foldSetId !== null && !(await caller.db.existsBy(FoldSetRecord, { id: foldSetId, splitId })))
    throw new Problem(422, 'no-such-folds', 'Choose folds of the training rows of this split.', {
      field: 'foldSetId',
    });
}

/** @throws Problem, SieveError with the first question that does not fit the data of a split */
export async function checkQuestionsOn(
  { db, courseId }: Caller,
  splitId: string,
  questions: readonly Question[],
): Promise<void> {
  const { roles, version } = await splitFor(db, courseId, splitId);
  checkQuestions(questions, { columns: version.profile, roles });
}

async function splitFor(
  db: EntityManager,
  courseId: string,
  splitId: string,
): Promise<{ roles: Roles; version: VersionRecord }> {
  const split = await db.findOneBy(SplitRecord, { id: splitId });
  const version = split && (await db.findOneBy(VersionRecord, { id: split.versionId }));
  const known = version && (await db.existsBy(DataSetRecord, { id: version.dataSetId, courseId }));
  if (!split || !known)
    throw new Problem(422, 'no-such-split', 'Choose a split that was saved in this course.', {
      field: 'splitId',
    });
  const { roles } = await db.findOneByOrFail(RolesRecord, { id: split.rolesId });
  return { roles, version };
}

export const allMarks = (questions: readonly Question[]): number =>
  questions.reduce((sum, question) => sum + marksOf(question), 0);

/** Settings as the columns of an exercise. */
export const columnsOf = ({ questions, deadline, opensAt, ...settings }: ExerciseSettings) => ({
  ...settings,
  marks: allMarks(questions),
  deadline: new Date(deadline),
  opensAt: opensAt === null ? null : new Date(opensAt),
});
