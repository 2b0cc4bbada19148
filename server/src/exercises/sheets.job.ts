import { Injectable } from '@nestjs/common';
import { Databases } from '../platform/database/databases.js';
import type { JobHandler } from '../platform/jobs/handler.js';
import type { JobKind, JobPayload } from '../platform/jobs/job-kind.js';
import { ExerciseRecord, PackRecord } from './exercise.entity.js';
import { keepOwnSheets } from './own-sheets.js';
import { secretOf } from './secret.entity.js';

interface SheetsPayload extends JobPayload {
  readonly exerciseId: string;
  readonly personId: string;
}

/** Sheets that are a student's own are generated. */
export const SHEETS_JOB: JobKind<SheetsPayload> = {
  name: 'sheets',
  seconds: 20,
  retries: 5,
  atOnce: 2,
  runningOfPerson: 1,
  runningOfCourse: 16,
  waiting: null,
  about: 'exerciseId',
  isOnce: false,
  title: `SELECT title FROM exercise WHERE id = (j.data ->> 'exerciseId')::uuid`,
  lastWord: 'Your own figures could not be generated. Open the exercise again.',
  cancelled: 'Your own figures were not generated. Open the exercise again.',
  saysWhy: false,
  /** The student asks again with the next look. */
  giveUp: () => Promise.resolve(),
  waitingSubjects: null,
};

/** Generates the sheets that are a student's own. Running twice keeps what running once kept. */
@Injectable()
export class SheetsJob implements JobHandler<SheetsPayload> {
  readonly kinds = [SHEETS_JOB];

  constructor(private readonly databases: Databases) {}

  async run({ exerciseId, personId }: SheetsPayload): Promise<void> {
    const db = await this.databases.of('worker');
    await db.transaction(async (manager) => {
      // Neither withdrawn nor corrected until they are kept.
      const exercise = await manager.findOne(ExerciseRecord, {
        where: { id: exerciseId },
        lock: { mode: 'pessimistic_read' },
      });
      const pack = exercise && (await manager.findOneBy(PackRecord, { exerciseId }));
      if (!pack) return;
      const secret = await secretOf(manager, exerciseId);
      await keepOwnSheets(manager, exercise, { questions: pack.questions, secret, people: [personId] });
    });
  }
}
