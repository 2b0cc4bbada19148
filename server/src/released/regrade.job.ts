import { isDeepStrictEqual } from 'node:util';
import { SieveError } from '@modest-sieve/core/foundation';
import type { ReleasedQuestion } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { AnswerKeyRecord, CorrectionRecord, packKeys } from '../exercises/answer-key.js';
import { ExerciseRecord, PackRecord } from '../exercises/exercise.entity.js';
import { fetchReleasedRequest, runsUsed } from '../exercises/material.js';
import { Compute } from '../platform/compute/compute.service.js';
import { ModelProcesses } from '../platform/models/model-process.js';
import { Databases } from '../platform/database/databases.js';
import { announce } from '../platform/events/announce.js';
import type { JobContext, JobHandler } from '../platform/jobs/handler.js';
import { failRow, type JobKind, type JobPayload } from '../platform/jobs/job-kind.js';
import { disclosedOf, IN_TURN, shownAfter, type Shown } from '../submissions/disclosing.js';
import { ResultRecord, SubmissionRecord } from '../submissions/submission.entity.js';
import { keepResult, markingOf } from '../submissions/marking.js';
import { EXERCISE_TASKS } from '../exercises/exercise.tasks.js';

/** What of the rules is about marking alone: all else is what students have answered. */
const OF_MARKING = ['metric', 'scheme', 'further', 'says'];

interface RegradePayload extends JobPayload {
  readonly exerciseId: string;
  readonly correctionId: string;
}

/** Every answer to a corrected exercise is marked again. */
export const REGRADE_JOB: JobKind<RegradePayload> = {
  name: 'regrade',
  seconds: 900,
  retries: 2,
  atOnce: 1,
  runningOfPerson: 1,
  runningOfCourse: 1,
  waiting: 20,
  about: 'correctionId',
  isOnce: false,
  title: `SELECT title FROM exercise WHERE id = (j.data ->> 'exerciseId')::uuid`,
  lastWord:
    'The answers could not be marked again. Nothing was changed. Compute it again; if that fails too, the server’s log says more.',
  cancelled: 'The marking was cancelled. Nothing was changed.',
  saysWhy: true,
  giveUp: failRow('vault.correction', 'correctionId', 'exercises'),
  waitingSubjects: `SELECT e.course_id AS "courseId", e.id AS "exerciseId", c.id AS "correctionId"
    FROM vault.correction c JOIN exercise e ON e.id = c.exercise_id WHERE c.state = 'waiting'`,
};

/**
 * Computes the keys of a correction, and marks every answer by them. Nothing of the exercise changes: the results wait
 * beside those that hold. What was marked already is not marked twice.
 */
@Injectable()
export class RegradeJob implements JobHandler<RegradePayload> {
  readonly kinds = [REGRADE_JOB];

  constructor(
    private readonly databases: Databases,
    readonly compute: Compute,
    readonly models: ModelProcesses,
  ) {}

  async run(
    { exerciseId, courseId, correctionId }: RegradePayload,
    { signal, progress }: JobContext,
  ): Promise<void> {
    const db = await this.databases.of('worker');
    const correction = await db.findOneBy(CorrectionRecord, { id: correctionId, state: 'waiting' });
    if (!correction) return;
    const { revision } = correction;
    const exercise = await db.findOneByOrFail(ExerciseRecord, { id: exerciseId });
    await progress('computing the keys', 0, 1);
    const released = correction.released ?? (await this.makeKeys(db, exercise, revision, signal));
    await this.markAll(db, exercise, { revision, released }, { signal, progress });
    await db.transaction(async (manager) => {
      await manager.update(
        CorrectionRecord,
        { id: correctionId, state: 'waiting' },
        { state: 'ready', problem: null },
      );
      await announce(manager, { courseId, to: 'staff', about: 'exercises' });
    });
  }

  /** Keys of the revision, from today's reference runs, the secret and the division of the pack that students have. */
  private async makeKeys(
    db: EntityManager,
    exercise: ExerciseRecord,
    revision: number,
    signal: AbortSignal,
  ): Promise<ReleasedQuestion[]> {
    const exerciseId = exercise.id;
    const pack = await db.findOneByOrFail(PackRecord, { exerciseId });
    const request = await fetchReleasedRequest(db, exercise, revision);
    const { questions } = request;
    const made = await this.compute.run(EXERCISE_TASKS.pack, request, signal);
    checkSameAsked(pack.questions, made.questions);
    const released = [...made.questions];
    await db.transaction(async (manager) => {
      await manager
        .createQueryBuilder()
        .insert()
        .into(AnswerKeyRecord)
        .values({
          exerciseId,
          revision,
          key: packKeys(made.keys),
          audit: [...made.audit],
          runs: await runsUsed(manager, exercise.splitId, questions),
        })
        .orIgnore()
        .execute();
      await manager.update(CorrectionRecord, { exerciseId, revision }, { released });
    });
    return released;
  }

  /** Every answer in the order in which its student got receipts: each may be measured by those before it. */
  private async markAll(
    db: EntityManager,
    exercise: ExerciseRecord,
    by: { readonly revision: number; readonly released: readonly ReleasedQuestion[] },
    { signal, progress }: JobContext,
  ): Promise<void> {
    const { revision } = by;
    const stepped = exercise.feedback === 'only-when-better';
    const marking = await markingOf(db, exercise, by);
    const turns: { id: string; turn: string }[] = await db.query(
      `SELECT s.id, s.person_id || ' ' || s.question AS turn FROM submission s
        WHERE s.exercise_id = $1 AND EXISTS (SELECT 1 FROM vault.result v WHERE v.submission_id = s.id)
        ORDER BY ${IN_TURN}`,
      [exercise.id],
    );
    let last = { turn: '', shown: null as Shown | null };
    for (const [done, { id, turn }] of turns.entries()) {
      if (done % 20 === 0) await progress('marking again', done, turns.length);
      if (turn !== last.turn) last = { turn, shown: null };
      const submission = await db.findOneByOrFail(SubmissionRecord, { id });
      const kept = await db.findOneBy(ResultRecord, { submissionId: id, revision, keyId: marking.keyId });
      const before =
        stepped && last.shown ? await db.findOneByOrFail(SubmissionRecord, { id: last.shown.id }) : null;
      const result = kept?.result ?? (await marking.mark(this, submission, { stepped, before }, signal));
      const { keyId, method } = marking;
      if (!kept) await keepResult(db, { submissionId: id, revision, keyId, method, result });
      const { receivedAt } = submission;
      const about = {
        stage: 'open',
        receivedAt,
        deadline: undefined,
        adjustment: null,
        comment: null,
      } as const;
      last = {
        turn,
        shown: shownAfter(id, disclosedOf(exercise, result, { ...about, shown: last.shown }), last.shown),
      };
    }
  }
}

/** @throws SieveError `asks-other` with the first question that would ask for something else than students answered */
function checkSameAsked(before: readonly ReleasedQuestion[], after: readonly ReleasedQuestion[]): void {
  for (const [i, question] of after.entries()) {
    const asked = before[i];
    if (asked && isDeepStrictEqual(askedIn(asked), askedIn(question))) continue;
    throw new SieveError(
      'asks-other',
      `Question ${i + 1} would ask for something else than students have answered. Truths, tolerances, marks and the texts of questions can be corrected; what is drawn, stated, given or handed in cannot. Set a new exercise for that.`,
      { field: question.id },
    );
  }
}

/** As it is kept: a value that is not there is no value. */
const askedIn = ({ id, kind, rules }: ReleasedQuestion): unknown =>
  JSON.parse(
    JSON.stringify({
      id,
      kind,
      rules: Object.fromEntries(Object.entries(rules).filter(([key]) => !OF_MARKING.includes(key))),
    }),
  );
