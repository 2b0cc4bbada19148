import type { ReleasedQuestion } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { QuestionSheet } from '../api/api.js';
import type { Caller } from '../platform/access/access.js';
import { Problem } from '../platform/errors/problem.js';
import { Events } from '../platform/events/events.service.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import type { ExerciseRecord } from './exercise.entity.js';
import { OwnSheetRecord } from './secret.entity.js';
import { isPersonal } from './sheets.js';
import { SHEETS_JOB } from './sheets.job.js';

/** Milliseconds that a student waits for figures of their own; a job takes a fraction of a second. */
const PATIENCE = 15_000;
/** Milliseconds after which a waiting request looks for itself, should an event have been missed. */
const LOOK_AGAIN = 1000;

/** A student's own sheets, which a job generates: the connection of a student reads no secret. */
@Injectable()
export class OwnSheets {
  constructor(
    private readonly jobs: Jobs,
    private readonly events: Events,
  ) {}

  /**
   * The caller's own sheets by question. Those that are not there yet are asked for and waited for.
   *
   * @throws Problem 503 `sheets-waiting`
   */
  async of(
    caller: Caller,
    { id: exerciseId }: ExerciseRecord,
    questions: readonly ReleasedQuestion[],
  ): Promise<Map<string, QuestionSheet>> {
    const personId = caller.person.id;
    const wanted = questions.filter(isPersonal).map(({ id }) => id);
    const end = Date.now() + PATIENCE;
    for (let isAsked = false; ;) {
      const heard = this.events.next(caller, LOOK_AGAIN);
      const found = await caller.db.findBy(OwnSheetRecord, { exerciseId, personId });
      const sheets = new Map(found.map(({ question, sheet }) => [question, sheet]));
      if (wanted.every((id) => sheets.has(id))) return sheets;
      if (Date.now() > end || caller.gone.aborted)
        throw new Problem(
          503,
          'sheets-waiting',
          'Your own figures are still being generated. Open the exercise again in a moment.',
          {},
          5,
        );
      if (!isAsked) await this.ask(caller, exerciseId);
      isAsked = true;
      await heard;
    }
  }

  private ask({ db, courseId, person }: Caller, exerciseId: string): Promise<void> {
    return db.transaction(async (manager) => {
      const payload = { courseId, exerciseId, personId: person.id };
      if (!(await this.jobs.isUnderWay(manager, SHEETS_JOB, { exerciseId, personId: person.id })))
        await this.jobs.enqueue(manager, SHEETS_JOB, payload);
    });
  }
}
