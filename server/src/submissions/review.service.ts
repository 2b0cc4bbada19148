import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { CommentText, MarkAdjustment } from '../api/api.js';
import { note } from '../audit/note.js';
import { lockedExercise, type ExerciseRecord } from '../exercises/exercise.entity.js';
import type { Caller } from '../platform/access/access.js';
import { conflict, notFound, Problem } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { adjustmentsOf } from './adjustments.js';
import { issueReceipts } from './receipts.js';
import { AdjustmentRecord, CommentRecord } from './submission.entity.js';
import { Submissions } from './submissions.service.js';

/** What staff do with answers: marks by hand, and comments. */
@Injectable()
export class Review {
  constructor(private readonly submissions: Submissions) {}

  /** Gives an answer other marks than were found, or takes these back; its student reads the reason. */
  adjust(
    caller: Caller,
    exercise: ExerciseRecord,
    id: string,
    { marks, reason }: MarkAdjustment,
  ): Promise<void> {
    return caller.db.transaction(async (manager) => {
      // Checks that are under way wait: the receipts are issued of what is kept.
      const locked = await lockedExercise(manager, exercise.id);
      const [answer] = await this.submissions.forStaff({ ...caller, db: manager }, locked, { id });
      if (!answer) throw notFound();
      const { result, outcome, person } = answer;
      if (outcome !== 'checked' || !result)
        throw conflict('not-checked', 'Only an answer that was checked has marks to adjust.');
      if (marks !== null && marks > result.outOf)
        throw new Problem(422, 'marks', `The question gives ${result.outOf} marks at most.`, {
          field: 'marks',
        });
      const submissionId = id;
      const number = ((await manager.maximum(AdjustmentRecord, 'number', { submissionId })) ?? 0) + 1;
      const made = { madeBy: caller.person.id, madeAt: caller.at };
      await manager.insert(AdjustmentRecord, { submissionId, number, marks, reason, ...made });
      await issueReceipts(manager, locked, { personId: person.id });
      const about = {
        exercise: exercise.title,
        question: answer.question,
        number: answer.number,
        marks,
        reason,
      };
      await note(manager, caller, 'marks adjusted', person.name, about);
      await announce(manager, { courseId: caller.courseId, to: person.id, about: 'submissions' });
    });
  }

  /** Writes something about an answer, or takes it back where the text is empty. */
  comment(caller: Caller, exercise: ExerciseRecord, id: string, { text }: CommentText): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const locked = await lockedExercise(manager, exercise.id);
      const [answer] = await this.submissions.forStaff({ ...caller, db: manager }, locked, { id });
      if (!answer) throw notFound();
      const submissionId = id;
      const number = ((await manager.maximum(CommentRecord, 'number', { submissionId })) ?? 0) + 1;
      const made = { madeBy: caller.person.id, madeAt: caller.at };
      await manager.insert(CommentRecord, { submissionId, number, text: text.trim(), ...made });
      if (locked.state === 'returned') await issueReceipts(manager, locked, { personId: answer.person.id });
      const about = { exercise: exercise.title, question: answer.question, number: answer.number };
      await note(manager, caller, 'commented', answer.person.name, about);
      await announce(manager, { courseId: caller.courseId, to: answer.person.id, about: 'submissions' });
    });
  }

  /** Takes marks back that were given by hand, so that those that were found count; receipts are issued by the caller. */
  async takeBack(
    manager: EntityManager,
    caller: Caller,
    exerciseId: string,
    ids: readonly string[],
  ): Promise<void> {
    const adjustments = await adjustmentsOf(manager, exerciseId);
    for (const submissionId of new Set(ids)) {
      if (!adjustments.has(submissionId))
        throw new Problem(
          422,
          'not-adjusted',
          'An answer in the list has no marks that were given by hand.',
          {
            field: 'takenBack',
          },
        );
      const number = ((await manager.maximum(AdjustmentRecord, 'number', { submissionId })) ?? 0) + 1;
      const reason = 'The exercise was corrected, and the marks that were found count.';
      const made = { madeBy: caller.person.id, madeAt: caller.at };
      await manager.insert(AdjustmentRecord, { submissionId, number, marks: null, reason, ...made });
    }
  }
}
