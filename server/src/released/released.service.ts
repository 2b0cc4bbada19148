import { writeExercise, writeKeys } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { Amendment } from '../api/api.js';
import { note } from '../audit/note.js';
import type { Caller } from '../platform/access/access.js';
import { conflict, notFound, Problem } from '../platform/errors/problem.js';
import { lockFor } from '../platform/database/lock.js';
import { announce } from '../platform/events/announce.js';
import { SubmissionRecord } from '../submissions/submission.entity.js';
import { issueReceipts } from '../submissions/receipts.js';
import { Briefs } from '../exercises/briefs.service.js';
import { AnswerKeyRecord, CorrectionRecord, SheetRecord, unpackKeys } from '../exercises/answer-key.js';
import { OwnSheetRecord, secretOf } from '../exercises/secret.entity.js';
import { ExerciseRecord, ExtensionRecord, lockedExercise, PackRecord } from '../exercises/exercise.entity.js';
import { Exercises, nextRevision } from '../exercises/exercises.service.js';
import { extensionsOf } from '../exercises/policy.js';

/** What instructors do to exercises that students have. */
@Injectable()
export class ReleasedExercises {
  constructor(
    private readonly exercises: Exercises,
    private readonly briefs: Briefs,
  ) {}

  /** Takes a released exercise back, as long as nobody has handed anything in: it is a draft again. */
  withdraw(caller: Caller, id: string): Promise<void> {
    return caller.db.transaction(async (manager) => {
      // No hand-in begins while this is looked at, and no correction is applied.
      await lockFor(manager, `exercise ${id}`);
      const { title, revision } = await this.exercises.find({ ...caller, db: manager }, id);
      if (await manager.existsBy(SubmissionRecord, { exerciseId: id }))
        throw conflict('handed-in', 'Something has been handed in: the exercise can only be amended now.');
      const next = await nextRevision(manager, id);
      const taken = await manager.update(
        ExerciseRecord,
        { id, state: 'released' },
        { state: 'draft', revision: next, releasedAt: null, notice: '', reason: '' },
      );
      if (taken.affected !== 1) throw conflict('not-open', 'Only an open exercise can be withdrawn.');
      const { questions } = await manager.findOneByOrFail(SheetRecord, { exerciseId: id, revision });
      await manager.insert(SheetRecord, { exerciseId: id, revision: next, questions });
      await manager.delete(CorrectionRecord, { exerciseId: id });
      await manager.delete(PackRecord, { exerciseId: id });
      await manager.delete(OwnSheetRecord, { exerciseId: id });
      await note(manager, caller, 'exercise withdrawn', title);
      await announce(manager, { courseId: caller.courseId, to: 'all', about: 'exercises' });
    });
  }

  /** Changes what may change of an open exercise, the brief of its pack too; students read the notice. */
  amend(caller: Caller, id: string, amendment: Amendment): Promise<void> {
    return this.change(caller, id, amendment, 'released');
  }

  /**
   * Opens a returned exercise again. What students were shown at the return stays known, so that questions whose right
   * answers were among it stay closed.
   */
  async reopen(caller: Caller, id: string, amendment: Amendment): Promise<void> {
    const latest = [amendment.deadline, ...(await extensionsOf(caller.db, id)).values()]
      .map((deadline) => new Date(deadline))
      .reduce((a, b) => (a > b ? a : b));
    if (latest <= caller.at)
      throw new Problem(
        422,
        'deadline',
        'The deadline is in the past, and no student has a later one. Set a later one.',
        { field: 'deadline' },
      );
    await this.change(caller, id, amendment, 'returned');
  }

  private async change(
    caller: Caller,
    id: string,
    { deadline, ...amendment }: Amendment,
    state: 'released' | 'returned',
  ): Promise<void> {
    const exercise = await this.exercises.find(caller, id);
    const { title, notice } = amendment;
    const changes = { ...amendment, deadline: new Date(deadline) };
    const pack = await this.briefs.rewritten(caller, exercise, changes);
    await caller.db.transaction(async (manager) => {
      const taken = await manager.update(
        ExerciseRecord,
        { id, courseId: caller.courseId, state },
        { ...changes, state: 'released' },
      );
      if (taken.affected !== 1)
        throw conflict(
          'not-open',
          state === 'released'
            ? 'Only an open exercise can be amended.'
            : 'Only a returned exercise can be reopened.',
        );
      await issueReceipts(manager, await this.exercises.find({ ...caller, db: manager }, id));
      await manager.update(PackRecord, { exerciseId: id }, pack);
      await note(manager, caller, state === 'released' ? 'exercise amended' : 'exercise reopened', title, {
        notice,
      });
      await announce(manager, { courseId: caller.courseId, to: 'all', about: 'exercises' });
    });
  }

  /** Gives a student a deadline of their own, or takes it back. */
  extend(caller: Caller, id: string, personId: string, deadline: string | null): Promise<void> {
    return caller.db.transaction(async (manager) => {
      await this.exercises.find({ ...caller, db: manager }, id);
      const [member]: { name: string }[] = await manager.query(
        `SELECT p.name FROM membership m JOIN identity.person p ON p.id = m.person_id
          WHERE m.course_id = $1 AND m.person_id = $2 AND m.role = 'student'`,
        [caller.courseId, personId],
      );
      if (!member) throw notFound();
      // Checks that are under way wait, and then know of it.
      const exercise = await lockedExercise(manager, id);
      if (deadline === null) await manager.delete(ExtensionRecord, { exerciseId: id, personId });
      else await manager.save(ExtensionRecord, { exerciseId: id, personId, deadline: new Date(deadline) });
      await issueReceipts(manager, exercise, { personId });
      await note(manager, caller, 'deadline extended', member.name, { exercise: exercise.title, deadline });
      await announce(manager, { courseId: caller.courseId, to: personId, about: 'exercises' });
    });
  }

  /** Gives marks and final figures back to students: every receipt is written in the transaction that closes the exercise. */
  return(caller: Caller, id: string): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const exercise = await this.exercises.find({ ...caller, db: manager }, id);
      await lockFor(manager, `exercise ${id}`);
      const taken = await manager.update(
        ExerciseRecord,
        { id, state: 'released' },
        { state: 'returned', returnedAt: caller.at },
      );
      if (taken.affected !== 1) throw conflict('not-open', 'Only a released exercise can be returned.');
      await checkNoneWaits(manager, id);
      await issueReceipts(manager, await this.exercises.find({ ...caller, db: manager }, id));
      await note(manager, caller, 'exercise returned', exercise.title);
      await announce(manager, { courseId: caller.courseId, to: 'all', about: 'exercises' });
    });
  }

  /** A released exercise for `sieve mark`: its questions, and what answers must look like. */
  async asFile(caller: Caller, id: string): Promise<string> {
    const { title, revision } = await this.exercises.find(caller, id);
    const pack = await caller.db.findOneBy(PackRecord, { exerciseId: id });
    if (!pack) throw notFound();
    const { questions } = await caller.db.findOneByOrFail(SheetRecord, { exerciseId: id, revision });
    return writeExercise({ title, questions, released: pack.questions });
  }

  /** Its keys, which are recorded to have been taken out. */
  keysAsFile(caller: Caller, id: string): Promise<string> {
    return caller.db.transaction(async (manager) => {
      const { title, revision } = await this.exercises.find({ ...caller, db: manager }, id);
      const key = await manager.findOneBy(AnswerKeyRecord, { exerciseId: id, revision });
      if (!key) throw notFound();
      await note(manager, caller, 'keys taken out', title);
      return writeKeys({ secret: await secretOf(manager, id), keys: unpackKeys(key.key) });
    });
  }
}

/** @throws Problem while an answer is still being checked */
async function checkNoneWaits(manager: EntityManager, exerciseId: string): Promise<void> {
  const waiting: unknown[] = await manager.query(
    `SELECT 1 FROM submission s
      WHERE s.exercise_id = $1 AND NOT EXISTS (SELECT 1 FROM receipt r WHERE r.submission_id = s.id) LIMIT 1`,
    [exerciseId],
  );
  if (waiting.length > 0)
    throw conflict(
      'checks-waiting',
      'Some submissions are still being checked. Return the exercise when they are done.',
    );
}
