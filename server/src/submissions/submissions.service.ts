import {
  fileSizeOf,
  limitsCheck,
  marksOfAnswer,
  standingOf,
  refusedAttempt,
  type Answer,
  type ReleasedQuestion,
} from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { ReceiptInfo, ReceiptPage, SubmissionInfo } from '../api/api.js';
import { ExerciseRecord, ExtensionRecord, PackRecord } from '../exercises/exercise.entity.js';
import { attemptPolicy, extensionsOf, lateness } from '../exercises/policy.js';
import { questionsShown, usedAttempts } from '../exercises/sheets.js';
import type { Caller } from '../platform/access/access.js';
import { conflict, notFound, Problem } from '../platform/errors/problem.js';
import { lockFor } from '../platform/database/lock.js';
import { Events } from '../platform/events/events.service.js';
import { announce } from '../platform/events/announce.js';
import { keepFile } from '../platform/files/files.js';
import { Limits } from '../platform/limits/limits.service.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { adjustmentsOf } from './adjustments.js';
import { commentsOn } from './comments.js';
import { verdictsOn } from './verdicts.js';
import { checkRoom } from './room.js';
import { PAGE, receiptLines, receiptOf, submissionOf, submissionsFor } from './submissions.sql.js';
import { SubmissionRecord } from './submission.entity.js';
import { checkOf } from './check.job.js';

interface HandIn {
  /** Null where the exercise has one question alone. */
  readonly question: string | null;
  readonly answer: Answer;
  readonly idempotencyKey: string;
}

/** Milliseconds after which a waiting request looks for itself, should an event have been missed. */
const LOOK_AGAIN = 2000;

@Injectable()
export class Submissions {
  constructor(
    private readonly jobs: Jobs,
    private readonly events: Events,
    private readonly limits: Limits,
  ) {}

  /**
   * Takes an answer: stores it and enqueues its check in one transaction, so that what is acknowledged is never lost.
   * The same idempotency key answers with the same submission, however often it is sent.
   */
  async handIn(
    caller: Caller,
    { id: exerciseId }: ExerciseRecord,
    { question, answer, idempotencyKey }: HandIn,
  ): Promise<{ id: string }> {
    await this.limits.take('upload person', caller.person.id);
    const { file, fields } = answer;
    const personId = caller.person.id;
    const mine = { exerciseId, personId };
    return caller.db.transaction(async (manager) => {
      // One hand-in of a student for an exercise at a time, and none while the exercise is returned or withdrawn.
      await lockFor(manager, `exercise ${exerciseId}`, { shared: true });
      await lockFor(manager, `hand-in ${exerciseId} ${personId}`);
      const earlier = await manager.findOneBy(SubmissionRecord, { ...mine, idempotencyKey });
      if (earlier) return { id: earlier.id };
      const exercise = await manager.findOneByOrFail(ExerciseRecord, { id: exerciseId });
      if (exercise.state === 'draft') throw notFound();
      if (exercise.state !== 'released')
        throw conflict('returned', 'The exercise has been returned and no longer takes answers.');
      const asked = await questionOf(manager, exerciseId, question);
      // What no answer can be is neither kept nor checked, and costs nothing.
      const beyond = file && limitsCheck(file.bytes, file.name, fileSizeOf(asked.rules));
      if (beyond) throw new Problem(413, beyond.id, `${beyond.message} ${beyond.expected ?? ''}`.trim());
      await checkRoom(manager, caller, file?.bytes.length ?? 0);
      const own = await manager.findOneBy(ExtensionRecord, mine);
      const used = await usedAttempts(manager, exerciseId, personId, caller.at);
      const policy = attemptPolicy(exercise, own?.deadline);
      const refused = refusedAttempt(policy, caller.at.getTime(), used.get(asked.id) ?? { all: 0, today: 0 });
      if (refused) throw conflict(refused.code, refused.message);
      if ((await questionsShown(manager, exercise, personId, [asked])).has(asked.id))
        throw conflict(
          'key-shown',
          'The right answers to this question were shown when the exercise was returned, so that it is closed.',
        );
      const number = (await manager.countBy(SubmissionRecord, { ...mine, question: asked.id })) + 1;
      const fileSha256 = file ? await keepFile(manager, 'public', Buffer.from(file.bytes)) : null;
      const { id } = await manager.save(SubmissionRecord, {
        ...mine,
        question: asked.id,
        number,
        fileName: file?.name ?? null,
        fileSha256,
        fields,
        idempotencyKey,
        receivedAt: caller.at,
      });
      const payload = { courseId: caller.courseId, submissionId: id, personId };
      await this.jobs.enqueue(manager, checkOf(asked.kind), payload);
      await announce(manager, { courseId: caller.courseId, to: personId, about: 'submissions' });
      return { id };
    });
  }

  /**
   * A student's own receipts for an exercise, the latest first.
   *
   * @param before the oldest receipt that the caller has; null for none
   */
  async receipts(caller: Caller, exerciseId: string, before: string | null): Promise<ReceiptPage> {
    const rows = await receiptLines(caller, exerciseId, before);
    const receipts = rows.slice(0, PAGE).map((row) => ({ ...row, receivedAt: row.receivedAt.toISOString() }));
    return { receipts, next: rows.length > PAGE ? (receipts.at(-1)?.id ?? null) : null };
  }

  /** One receipt of the student who asks; another's is unknown. */
  async receipt(caller: Caller, exerciseId: string, id: string): Promise<ReceiptInfo> {
    const row = await submissionOf(caller, exerciseId, id);
    if (!row) throw notFound();
    return receiptOf(row);
  }

  /** A receipt once the file is checked, or as it is after so many seconds. */
  async settled(caller: Caller, exerciseId: string, id: string, seconds: number): Promise<ReceiptInfo> {
    // By a clock that never jumps: that of the day may be set while somebody waits.
    const end = performance.now() + seconds * 1000;
    for (;;) {
      const left = end - performance.now();
      // Listened to before the receipt is read, so that nothing falls between.
      const heard = this.events.next(caller, Math.max(0, Math.min(LOOK_AGAIN, left)));
      const receipt = await this.receipt(caller, exerciseId, id);
      if (receipt.outcome !== 'waiting' || left <= 0) return receipt;
      await heard;
    }
  }

  /** All submissions of an exercise with everything that is known of them, for staff; or one of them. A revision's results may be asked for. */
  async forStaff(
    caller: Caller,
    exercise: ExerciseRecord,
    { id = null, revision = exercise.revision }: { id?: string | null; revision?: number } = {},
  ): Promise<SubmissionInfo[]> {
    const rows = await submissionsFor(caller, exercise.id, { id, revision });
    const own = await extensionsOf(caller.db, exercise.id);
    const adjustments = await adjustmentsOf(caller.db, exercise.id);
    const comments = await commentsOn(caller.db, exercise.id);
    const verdicts = await verdictsOn(caller.db, exercise.id);
    return rows.map((row) => {
      const adjustment = adjustments.get(row.id) ?? null;
      const latePercent = lateness(exercise, own.get(row.personId), row.receivedAt);
      return {
        ...receiptOf(row),
        person: { id: row.personId, name: row.name },
        result: row.result,
        latePercent,
        marks: row.result && marksOfAnswer(row.result, latePercent, adjustment),
        standing: row.result && standingOf(row.result, latePercent, adjustment),
        adjustment,
        comment: comments.get(row.id) ?? null,
        verdicts: verdicts.get(row.id) ?? [],
      };
    });
  }
}

/** The question that an answer names, or the only one there is. */
async function questionOf(
  manager: EntityManager,
  exerciseId: string,
  question: string | null,
): Promise<ReleasedQuestion> {
  const { questions } = await manager.findOneByOrFail(PackRecord, { exerciseId });
  const [first, ...others] = questions;
  const found =
    question === null && others.length === 0 ? first : questions.find(({ id }) => id === question);
  if (!found)
    throw new Problem(
      422,
      'no-such-question',
      `Say which question it answers: ${questions.map(({ id }) => id).join(', ')}.`,
      {
        field: 'question',
      },
    );
  return found;
}
