import type { Secret } from '@modest-sieve/core/foundation';
import { refusalOf, type Pack, type Question } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { note, type Doer } from '../audit/note.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import { type JobKind, type JobPayload } from '../platform/jobs/job-kind.js';
import { lockFor } from '../platform/database/lock.js';
import { ReleaseRecord } from '../reserve/release.entity.js';
import { Reserves } from '../reserve/reserves.service.js';
import { Membership } from '../courses/course.entity.js';
import { AnswerKeyRecord, packKeys } from './answer-key.js';
import { ExerciseRecord, PackRecord, zipped } from './exercise.entity.js';
import { fetchDraftRequest, runsUsed } from './material.js';
import { keepOwnSheets } from './own-sheets.js';
import { EXERCISE_TASKS } from './exercise.tasks.js';

interface PackPayload extends JobPayload {
  readonly exerciseId: string;
  /** Who released it. */
  readonly personId: string;
}

/** Pack and keys of an exercise are made, which releases it. */
export const PACK_JOB: JobKind<PackPayload> = {
  name: 'pack',
  seconds: 120,
  retries: 2,
  atOnce: 1,
  runningOfPerson: 1,
  runningOfCourse: 1,
  waiting: 20,
  about: 'exerciseId',
  isOnce: false,
  title: `SELECT title FROM exercise WHERE id = (j.data ->> 'exerciseId')::uuid`,
  lastWord:
    'The pack could not be made. Release the exercise again; if that fails too, the server’s log says more.',
  cancelled: 'Making the pack was cancelled. Release the exercise again when you are ready.',
  saysWhy: true,
  async giveUp(manager, { courseId, exerciseId, personId }, problem, how) {
    const exercise = await manager.findOneBy(ExerciseRecord, { id: exerciseId, state: 'packing' });
    if (!exercise) return;
    await manager.update(ExerciseRecord, { id: exerciseId }, { state: 'draft', problem });
    if (how === 'refused')
      await note(manager, { courseId, person: { id: personId } }, 'release refused', exercise.title, {
        problem: problem.message,
      });
    await announce(manager, { courseId, to: 'staff', about: 'exercises' });
  },
  waitingSubjects: `SELECT course_id AS "courseId", id AS "exerciseId", made_by AS "personId" FROM exercise WHERE state = 'packing'`,
};

/** Makes the pack and the keys of an exercise that is being released. Running twice stores one of each. */
@Injectable()
export class PackJob implements JobHandler<PackPayload> {
  readonly kinds = [PACK_JOB];

  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
    private readonly reserves: Reserves,
  ) {}

  async run({ exerciseId, personId }: PackPayload, { signal, progress }: JobContext): Promise<void> {
    const db = await this.databases.of('worker');
    const exercise = await db.findOneBy(ExerciseRecord, { id: exerciseId, state: 'packing' });
    if (!exercise) return;
    const { courseId } = exercise;
    const doer = { person: { id: personId }, courseId };
    // Another exercise on the data set may be released meanwhile: then this one is compared with it too.
    for (let isKept = false; !isKept;) {
      await progress('making the pack and the keys', 0, 2);
      const { request, ...draft } = await fetchDraftRequest(db, this.reserves, exercise, personId);
      const { questions, secret } = request;
      const pack = await this.compute.run(EXERCISE_TASKS.pack, request, signal);
      const refused = refusalOf(pack.audit, exercise.reason);
      if (refused) throw refused;
      await progress('keeping them', 1, 2);
      isKept = await this.keep(db, exercise, { ...draft, doer, questions, pack, secret });
    }
  }

  /** Keeps pack, keys and release in one transaction; false where the reserve of the data set has changed meanwhile. */
  private keep(
    db: EntityManager,
    exercise: ExerciseRecord,
    {
      pack,
      questions,
      secret,
      dataSetId,
      releases,
      doer,
    }: {
      readonly pack: Pack;
      readonly questions: readonly Question[];
      readonly secret: Secret;
      readonly dataSetId: string;
      readonly releases: readonly string[];
      readonly doer: Doer;
    },
  ): Promise<boolean> {
    const { id: exerciseId, courseId, splitId, title, revision } = exercise;
    return db.transaction(async (manager) => {
      await lockFor(manager, `reserve ${dataSetId}`);
      const now = await manager.countBy(ReleaseRecord, { dataSetId });
      if (now !== releases.length) return false;
      const taken = await manager.update(
        ExerciseRecord,
        { id: exerciseId, state: 'packing' },
        { state: 'released', releasedAt: new Date(), problem: null },
      );
      if (taken.affected !== 1) return true;
      await manager.insert(PackRecord, {
        exerciseId,
        ...zipped(pack.zip),
        files: [...pack.files],
        questions: [...pack.questions],
      });
      await manager.insert(AnswerKeyRecord, {
        exerciseId,
        revision,
        key: packKeys(pack.keys),
        audit: [...pack.audit],
        runs: await runsUsed(manager, splitId, questions),
      });
      const division = Buffer.from(pack.division);
      await manager.insert(ReleaseRecord, { dataSetId, splitId, exerciseId, title, division });
      const people = await manager.findBy(Membership, { courseId, role: 'student' });
      await keepOwnSheets(manager, exercise, {
        questions: pack.questions,
        secret,
        people: people.map(({ personId }) => personId),
      });
      await note(
        manager,
        doer,
        'exercise released',
        title,
        exercise.reason === '' ? {} : { reason: exercise.reason },
      );
      await announce(manager, { courseId, to: 'all', about: 'exercises' });
      return true;
    });
  }
}
