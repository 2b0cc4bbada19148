import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { isVerdictOn, SLIPS_BY_KIND } from '@modest-sieve/core/assessment';
import type { CommentText, MarkAdjustment, SlipVerdictGiven, SubmissionInfo } from '../api/api.js';
import { note, type Action } from '../audit/note.js';
import { lockedExercise, PackRecord, type ExerciseRecord } from '../exercises/exercise.entity.js';
import type { Caller } from '../platform/access/access.js';
import { conflict, notFound, Problem } from '../platform/errors/problem.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { announce } from '../platform/events/announce.js';
import { adjustmentsOf } from './adjustments.js';
import { checkOf } from './check.job.js';
import { showRemarks } from './comments.js';
import { issueReceipts } from './receipts.js';
import { AdjustmentRecord, CommentRecord, RemarkRecord, SlipVerdictRecord } from './submission.entity.js';
import { Submissions } from './submissions.service.js';

/** What each verdict on a mistake is in the activity log. */
const VERDICT_ACTIONS: Readonly<Record<SlipVerdictGiven['verdict'], Action>> = {
  dismissed: 'slip dismissed',
  named: 'slip named',
  undone: 'slip verdict undone',
};

/** What staff do with answers: marks by hand, comments, and verdicts on the mistakes that were found. */
@Injectable()
export class Review {
  constructor(
    private readonly submissions: Submissions,
    private readonly jobs: Jobs,
  ) {}

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

  /** Writes something about all that a student handed in for the exercise, or takes it back where the text is empty. */
  remark(caller: Caller, exercise: ExerciseRecord, personId: string, { text }: CommentText): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const locked = await lockedExercise(manager, exercise.id);
      const [person]: { name: string }[] = await manager.query(
        `SELECT name FROM identity.person WHERE id = $2
            AND EXISTS (SELECT 1 FROM submission WHERE exercise_id = $1 AND person_id = $2)`,
        [exercise.id, personId],
      );
      if (!person) throw notFound();
      const about = { exerciseId: exercise.id, personId };
      await manager.query(
        'INSERT INTO remark (exercise_id, person_id) VALUES ($1, $2) ON CONFLICT DO NOTHING',
        [exercise.id, personId],
      );
      const number = ((await manager.maximum(RemarkRecord, 'number', about)) ?? 0) + 1;
      const made = { madeBy: caller.person.id, madeAt: caller.at };
      await manager.insert(RemarkRecord, { ...about, number, text: text.trim(), ...made });
      if (locked.state === 'returned') await showRemarks(manager, exercise.id);
      await note(manager, caller, 'commented on all', person.name, { exercise: exercise.title });
      await announce(manager, { courseId: caller.courseId, to: personId, about: 'submissions' });
    });
  }

  /** Says of a mistake that was found in an answer that it is not there, of another that it is, or takes such a word back. */
  judge(caller: Caller, exercise: ExerciseRecord, id: string, given: SlipVerdictGiven): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const locked = await lockedExercise(manager, exercise.id);
      const [answer] = await this.submissions.forStaff({ ...caller, db: manager }, locked, { id });
      if (!answer) throw notFound();
      checkVerdict(answer, given);
      const submissionId = id;
      const number = ((await manager.maximum(SlipVerdictRecord, 'number', { submissionId })) ?? 0) + 1;
      const { slip, field, verdict } = given;
      const made = { madeBy: caller.person.id, madeAt: caller.at };
      await manager.insert(SlipVerdictRecord, { submissionId, number, slip, field, verdict, ...made });
      await issueReceipts(manager, locked, { personId: answer.person.id });
      const about = { exercise: exercise.title, question: answer.question, number: answer.number, slip };
      await note(manager, caller, VERDICT_ACTIONS[verdict], answer.person.name, about);
      await announce(manager, { courseId: caller.courseId, to: answer.person.id, about: 'submissions' });
    });
  }

  /** Has answers checked again whose check did not finish: one, or all of the exercise. */
  checkAgain(caller: Caller, exercise: ExerciseRecord, one: string | null): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const { id, courseId, title, state } = await lockedExercise(manager, exercise.id);
      if (state === 'returned')
        throw conflict('returned', 'Students have their marks. Reopen the exercise, then check again.');
      const unfinished: { id: string; personId: string; question: string }[] = await manager.query(
        'SELECT id, person_id AS "personId", question FROM take_unfinished($1, $2)',
        [id, one],
      );
      if (unfinished.length === 0)
        throw conflict(
          'nothing-unfinished',
          'Every check has finished or is under way: none is left to do again.',
        );
      const { questions } = await manager.findOneByOrFail(PackRecord, { exerciseId: id });
      for (const { id: submissionId, personId, question } of unfinished) {
        const kind = questions.find((asked) => asked.id === question)?.kind;
        if (!kind) throw new TypeError(`the exercise has no question ${question}`);
        await this.jobs.enqueue(
          manager,
          checkOf(kind),
          { courseId, submissionId, personId },
          { isAgain: true },
        );
        await announce(manager, { courseId, to: personId, about: 'submissions' });
      }
      await note(manager, caller, 'check begun again', title, { answers: unfinished.length });
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

/** A verdict must be about a mistake that was found, that the kind of question knows, or of which something was said. */
function checkVerdict({ result, fields, verdicts }: SubmissionInfo, given: SlipVerdictGiven): void {
  if (!result) throw conflict('not-checked', 'Only an answer that was checked has mistakes to name.');
  const wrong = (message: string) => new Problem(422, 'slip', message, { field: 'slip' });
  const isFound = (result.slips ?? []).some((found) => isVerdictOn(found)(given));
  if (given.verdict === 'dismissed' && !isFound)
    throw wrong('This mistake was not found in the answer, so that there is nothing to dismiss.');
  if (
    given.verdict === 'undone' &&
    !verdicts.some((said) => said.slip === given.slip && said.field === given.field)
  )
    throw wrong('Nothing was said of this mistake in the answer.');
  if (given.verdict !== 'named') return;
  if (isFound) throw wrong('This mistake was found in the answer already.');
  if (!(SLIPS_BY_KIND[result.kind] ?? []).some(({ id }) => id === given.slip))
    throw wrong('Answers to this kind of question have no such mistake.');
  if (given.field !== null && !Object.hasOwn(fields, given.field))
    throw new Problem(422, 'field', 'The answer has no such figure.', { field: 'field' });
}
