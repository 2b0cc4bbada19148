import { DataSetRecord, RolesRecord, VersionRecord } from '../store/dataset.entity.js';
import { SplitRecord } from '../store/split.entity.js';
import { versionAddress } from '../store/version-address.js';
import type { Caller } from '../platform/access/access.js';
import { AnswerKeyRecord, CorrectionRecord, SheetRecord, unpackKeys } from './answer-key.js';
import type { ExerciseRecord } from './exercise.entity.js';
import { staleExercises } from './exercises.sql.js';
import { extensionsOf } from './policy.js';

/** What staff see of an exercise and students do not. */
export async function staffDetail({ db, role }: Caller, exercise: ExerciseRecord) {
  const { id: exerciseId, revision } = exercise;
  const split = await db.findOneByOrFail(SplitRecord, { id: exercise.splitId });
  const version = await db.findOneByOrFail(VersionRecord, { id: split.versionId });
  const dataSet = await db.findOneByOrFail(DataSetRecord, { id: version.dataSetId });
  const { roles } = await db.findOneByOrFail(RolesRecord, { id: split.rolesId });
  const key = await db.findOneBy(AnswerKeyRecord, { exerciseId, revision });
  const sheet = await db.findOneByOrFail(SheetRecord, { exerciseId, revision });
  const extensions = await extensionsOf(db, exerciseId);
  const correction = await db.findOneBy(CorrectionRecord, { exerciseId });
  const stale = await staleExercises({ db, courseId: exercise.courseId });
  return {
    composed: role === 'instructor' ? sheet.questions : null,
    roles,
    dataSet: { address: versionAddress(dataSet.id, version.number), name: dataSet.name },
    audit: key?.audit ?? null,
    keys: key && Object.entries(unpackKeys(key.key)).map(([question, { about }]) => ({ question, about })),
    problem: exercise.problem,
    stale: stale.has(exerciseId),
    correction: role === 'instructor' ? (correction?.state ?? null) : null,
    extensions: [...extensions].map(([personId, deadline]) => ({
      personId,
      deadline: deadline.toISOString(),
    })),
  };
}
