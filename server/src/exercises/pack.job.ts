import { SieveError, type Secret } from '@modest-sieve/core/foundation';
import { refusalOf, type Pack, type Question } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Compute } from '../platform/compute/compute.service.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import { note, type Doer } from '../audit/note.js';
import { ABANDON } from '../platform/jobs/abandon.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import type { JobPayloads } from '../platform/jobs/queues.js';
import { lockFor } from '../platform/database/lock.js';
import { ReleaseRecord } from '../reserve/release.entity.js';
import { Reserves } from '../reserve/reserves.service.js';
import { Membership } from '../courses/course.entity.js';
import { briefHead } from './briefs.service.js';
import { AnswerKeyRecord, packKeys, SheetRecord } from './answer-key.js';
import { ExerciseRecord, PackRecord, zipped } from './exercise.entity.js';
import { fetchDraftMaterial, runsUsed } from './material.js';
import { keepOwnSheets } from './own-sheets.js';

/** Makes the pack and the keys of an exercise that is being released. Running twice stores one of each. */
@Injectable()
export class PackJob implements JobHandler<JobPayloads['pack']> {
  constructor(
    private readonly databases: Databases,
    private readonly compute: Compute,
    private readonly reserves: Reserves,
  ) {}

  async run(payload: JobPayloads['pack'], { signal, progress }: JobContext): Promise<void> {
    const { exerciseId, personId } = payload;
    const db = await this.databases.of('worker');
    const exercise = await db.findOneBy(ExerciseRecord, { id: exerciseId, state: 'packing' });
    if (!exercise) return;
    const { title, revision, reissued, courseId } = exercise;
    const head = await briefHead(db, exercise);
    const doer = { person: { id: personId }, courseId };
    const { questions } = await db.findOneByOrFail(SheetRecord, { exerciseId, revision });
    try {
      // Another exercise on the data set may be released meanwhile: then this one is compared with it too.
      for (let isKept = false; !isKept;) {
        await progress('making the pack and the keys', 0, 2);
        const { material, ...draft } = await fetchDraftMaterial(db, this.reserves, exercise, personId);
        const pack = await this.compute.run('pack', { ...material, ...head, questions, reissued }, signal);
        const refused = refusalOf(pack.audit, exercise.reason);
        if (refused) throw refused;
        await progress('keeping them', 1, 2);
        isKept = await this.keep(db, exercise, { ...draft, doer, questions, pack, secret: material.secret });
      }
    } catch (error) {
      if (!(error instanceof SieveError)) throw error;
      const { code, message } = error;
      await db.transaction(async (manager) => {
        await note(manager, doer, 'release refused', title, { problem: message });
        await ABANDON.pack(manager, payload, { code, message });
      });
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
      await announce(manager, { courseId, to: 'all' });
      return true;
    });
  }

  orphans(manager: EntityManager): Promise<JobPayloads['pack'][]> {
    return manager.query(
      `SELECT e.course_id AS "courseId", e.id AS "exerciseId", e.made_by AS "personId" FROM exercise e
        WHERE e.state = 'packing'
          AND NOT EXISTS (SELECT 1 FROM pgboss.job j
                           WHERE j.name = 'pack' AND j.data ->> 'exerciseId' = e.id::text
                             AND j.state IN ('created', 'retry', 'active'))`,
    );
  }
}
