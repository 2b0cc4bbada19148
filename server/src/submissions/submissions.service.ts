import { disclose, LARGEST_PREDICTIONS, type Result } from '@modest-sieve/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { ReceiptInfo, SubmissionInfo } from '../api/api.js';
import { ExerciseRecord } from '../exercises/exercise.entity.js';
import type { Caller } from '../platform/access/access.js';
import { conflict, notFound, Problem } from '../platform/errors/problem.js';
import { lockFor } from '../platform/database/lock.js';
import { Events } from '../platform/events/events.service.js';
import { announce } from '../platform/events/announce.js';
import { keepFile } from '../platform/files/files.js';
import { Limits } from '../platform/limits/limits.service.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { countingSubmission } from './counting.js';
import { ReceiptRecord, SubmissionRecord } from './submission.entity.js';

interface HandIn {
  readonly fileName: string;
  readonly bytes: Buffer;
  readonly idempotencyKey: string;
}

/** A submission with its latest receipt, and its result where the connection may read it. */
interface SubmissionRow {
  readonly id: string;
  readonly exerciseId: string;
  readonly personId: string;
  readonly number: number;
  readonly fileName: string;
  readonly sha256: string;
  readonly receivedAt: Date;
  readonly outcome: ReceiptInfo['outcome'];
  readonly disclosed: ReceiptInfo['disclosed'];
  readonly problem: string | null;
}

const WITH_RECEIPT = `
  SELECT s.id, s.exercise_id AS "exerciseId", s.person_id AS "personId", s.number, s.file_name AS "fileName",
         s.file_sha256 AS sha256, s.received_at AS "receivedAt",
         coalesce(r.outcome, 'waiting') AS outcome, r.disclosed, r.problem
    FROM submission s
    LEFT JOIN LATERAL (SELECT * FROM receipt WHERE submission_id = s.id ORDER BY stage = 'returned' DESC LIMIT 1) r ON true`;

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
   * Takes a file: stores it and enqueues its check in one transaction, so that what is acknowledged is never lost.
   * The same idempotency key answers with the same submission, however often it is sent.
   */
  async handIn(
    caller: Caller,
    exercise: ExerciseRecord,
    { fileName, bytes, idempotencyKey }: HandIn,
  ): Promise<{ id: string }> {
    await this.limits.take('upload person', caller.person.id);
    const mine = { exerciseId: exercise.id, personId: caller.person.id };
    return caller.db.transaction(async (manager) => {
      // One hand-in of a student for an exercise at a time, and none while the exercise is being returned.
      await lockFor(manager, `exercise ${exercise.id}`, { shared: true });
      await lockFor(manager, `hand-in ${exercise.id} ${caller.person.id}`);
      const earlier = await manager.findOneBy(SubmissionRecord, { ...mine, idempotencyKey });
      if (earlier) return { id: earlier.id };
      const { state } = await manager.findOneByOrFail(ExerciseRecord, { id: exercise.id });
      if (state !== 'released')
        throw conflict('returned', 'The exercise has been returned and takes no more files.');
      if (caller.at > exercise.deadline) {
        throw conflict('deadline-passed', 'The deadline has passed. Your file was not taken.');
      }
      if (bytes.length > LARGEST_PREDICTIONS)
        throw new Problem(413, 'too-large', 'The file is larger than the limit.');
      if ((await this.used(manager, exercise.id, caller.person.id)) >= exercise.attempts) {
        throw conflict('no-attempts', `All ${exercise.attempts} attempts are used.`);
      }
      const number = (await manager.countBy(SubmissionRecord, mine)) + 1;
      const fileSha256 = await keepFile(manager, 'public', bytes);
      const record = { ...mine, number, fileName, fileSha256, idempotencyKey, receivedAt: caller.at };
      const { id } = await manager.save(SubmissionRecord, record);
      await this.jobs.enqueue(manager, 'check', { courseId: caller.courseId, submissionId: id });
      await announce(manager, { courseId: caller.courseId, to: caller.person.id });
      return { id };
    });
  }

  /** Attempts used: what was checked or still waits. A file that failed its checks, or whose check failed, costs none. */
  async used(manager: EntityManager, exerciseId: string, personId: string): Promise<number> {
    const [row]: { used: number }[] = await manager.query(
      `SELECT count(*)::int AS used FROM submission s
        WHERE s.exercise_id = $1 AND s.person_id = $2 AND NOT EXISTS (
          SELECT 1 FROM receipt r WHERE r.submission_id = s.id AND r.outcome <> 'checked')`,
      [exerciseId, personId],
    );
    return row?.used ?? 0;
  }

  /** A student's own receipts for an exercise, the latest first. */
  async receipts(caller: Caller, exerciseId: string): Promise<ReceiptInfo[]> {
    const rows: SubmissionRow[] = await caller.db.query(
      `${WITH_RECEIPT} WHERE s.exercise_id = $1 AND s.person_id = $2 ORDER BY s.number DESC`,
      [exerciseId, caller.person.id],
    );
    return rows.map(receiptOf);
  }

  /** One receipt of the student who asks; another's is unknown. */
  async receipt(caller: Caller, exerciseId: string, id: string): Promise<ReceiptInfo> {
    const [row]: SubmissionRow[] = await caller.db.query(
      `${WITH_RECEIPT} WHERE s.exercise_id = $1 AND s.person_id = $2 AND s.id = $3`,
      [exerciseId, caller.person.id, id],
    );
    if (!row) throw notFound();
    return receiptOf(row);
  }

  /** A receipt once the file is checked, or as it stands after so many seconds. */
  async settled(caller: Caller, exerciseId: string, id: string, seconds: number): Promise<ReceiptInfo> {
    const end = Date.now() + seconds * 1000;
    for (;;) {
      const left = end - Date.now();
      // Listened to before the receipt is read, so that nothing falls between.
      const heard = this.events.next(caller, Math.max(0, Math.min(LOOK_AGAIN, left)));
      const receipt = await this.receipt(caller, exerciseId, id);
      if (receipt.outcome !== 'waiting' || left <= 0) return receipt;
      await heard;
    }
  }

  /** All submissions of an exercise with everything that is known of them, for staff; or one of them. */
  async forStaff(caller: Caller, exerciseId: string, id: string | null = null): Promise<SubmissionInfo[]> {
    const rows: (SubmissionRow & { name: string; result: Result | null })[] = await caller.db.query(
      `SELECT b.*, p.name, v.result FROM (${WITH_RECEIPT} WHERE s.exercise_id = $1 AND ($2::uuid IS NULL OR s.id = $2)) b
         JOIN identity.person p ON p.id = b."personId"
         LEFT JOIN LATERAL (SELECT result FROM vault.result WHERE submission_id = b.id ORDER BY created_at DESC LIMIT 1) v ON true
        ORDER BY p.name, b."personId", b.number`,
      [exerciseId, id],
    );
    return rows.map((row) => ({
      ...receiptOf(row),
      person: { id: row.personId, name: row.name },
      result: row.result,
    }));
  }

  /** Writes the final receipts of a returned exercise. */
  async discloseAll(manager: EntityManager, exercise: ExerciseRecord): Promise<void> {
    const waiting: unknown[] = await manager.query(
      `SELECT 1 FROM submission s WHERE s.exercise_id = $1 AND NOT EXISTS (SELECT 1 FROM receipt r WHERE r.submission_id = s.id) LIMIT 1`,
      [exercise.id],
    );
    if (waiting.length > 0)
      throw conflict(
        'checks-waiting',
        'Some submissions are still being checked. Return the exercise when they are done.',
      );
    const rows: { id: string; result: Result }[] = await manager.query(
      `SELECT DISTINCT ON (s.id) s.id, v.result FROM submission s JOIN vault.result v ON v.submission_id = s.id
        WHERE s.exercise_id = $1 ORDER BY s.id, v.created_at DESC`,
      [exercise.id],
    );
    for (const { id, result } of rows) {
      await manager.insert(ReceiptRecord, {
        submissionId: id,
        stage: 'returned',
        outcome: result.holds ? 'checked' : 'refused',
        disclosed: disclose(result, exercise.feedback, true),
      });
    }
  }

  /** The student's marks by exercise, for those that are returned. */
  async marksOf(caller: Caller): Promise<Map<string, number>> {
    const exercises = await caller.db.findBy(ExerciseRecord, {
      courseId: caller.courseId,
      state: 'returned',
    });
    const marks = new Map<string, number>();
    for (const exercise of exercises) {
      const receipts = await this.receipts(caller, exercise.id);
      const counting = countingSubmission(
        receipts.map((r) => ({
          id: r.id,
          number: r.number,
          outcome: r.outcome,
          marks: r.disclosed?.final?.marks ?? null,
        })),
        exercise.counts,
      );
      if (counting) marks.set(exercise.id, counting.marks ?? 0);
    }
    return marks;
  }
}

function receiptOf(row: SubmissionRow): ReceiptInfo {
  return {
    id: row.id,
    number: row.number,
    fileName: row.fileName,
    sha256: row.sha256,
    receivedAt: row.receivedAt.toISOString(),
    outcome: row.outcome,
    disclosed: row.disclosed,
    problem: row.problem,
  };
}
