import { randomUUID } from 'node:crypto';
import { marksOf, type KeyOf, type MarkScheme, type Question } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type {
  Correction,
  CorrectionApplied,
  CorrectionInfo,
  MarkChange,
  SubmissionInfo,
} from '../api/api.js';
import { note } from '../audit/note.js';
import type { Caller } from '../platform/access/access.js';
import { lockFor } from '../platform/database/lock.js';
import { conflict } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { grouped, marksByQuestion, marksIn } from '../submissions/class-view.js';
import { issueReceipts } from '../submissions/receipts.js';
import { Review } from '../submissions/review.service.js';
import { Submissions } from '../submissions/submissions.service.js';
import { AnswerKeyRecord, CorrectionRecord, SheetRecord, unpackKeys } from '../exercises/answer-key.js';
import { Briefs } from '../exercises/briefs.service.js';
import { OwnSheetRecord } from '../exercises/secret.entity.js';
import { ExerciseRecord, lockedExercise, PackRecord } from '../exercises/exercise.entity.js';
import { Exercises, nextRevision } from '../exercises/exercises.service.js';
import { allMarks, checkQuestionsOn } from '../exercises/settings.js';
import { adjustedAmong, checkSameQuestions, unmarked } from './correction.js';
import { REGRADE_JOB } from './regrade.job.js';

/**
 * Corrections of what students have answered: questions and keys are computed again and every answer is marked by them
 * in a job; the instructor reads what would change, and then applies or drops it.
 */
@Injectable()
export class Corrections {
  constructor(
    private readonly exercises: Exercises,
    private readonly submissions: Submissions,
    private readonly review: Review,
    private readonly jobs: Jobs,
    private readonly briefs: Briefs,
  ) {}

  /** Begins a correction, in place of one that was neither applied nor dropped. */
  async begin(caller: Caller, id: string, { questions }: Correction): Promise<void> {
    const { splitId } = await this.exercises.find(caller, id);
    await checkQuestionsOn(caller, splitId, questions);
    await caller.db.transaction(async (manager) => {
      await lockFor(manager, `exercise ${id}`);
      const { state, revision, title, courseId } = await this.exercises.find({ ...caller, db: manager }, id);
      if (state !== 'released' && state !== 'returned')
        throw conflict('not-released', 'Students do not have it yet: change the draft.');
      const sheet = await manager.findOneByOrFail(SheetRecord, { exerciseId: id, revision });
      checkSameQuestions(sheet.questions, questions);
      const next = await nextRevision(manager, id);
      const correctionId = randomUUID();
      await manager.insert(SheetRecord, { exerciseId: id, revision: next, questions: [...questions] });
      await manager.delete(CorrectionRecord, { exerciseId: id });
      await manager.insert(CorrectionRecord, {
        exerciseId: id,
        id: correctionId,
        revision: next,
        state: 'waiting',
        problem: null,
        released: null,
      });
      await this.jobs.enqueue(manager, REGRADE_JOB, { courseId, exerciseId: id, correctionId });
      await note(manager, caller, 'correction begun', title);
      await announce(manager, { courseId, to: 'staff', about: 'exercises' });
    });
  }

  /** What the correction would change. */
  async show(caller: Caller, id: string): Promise<CorrectionInfo> {
    const exercise = await this.exercises.find(caller, id);
    const correction = await correctionOf(caller.db, id);
    const { revision, state } = correction;
    const before = await revisionOf(caller.db, id, exercise.revision);
    const after = await revisionOf(caller.db, id, revision);
    const changes = state === 'ready' ? await this.changes(caller, exercise, revision) : NO_CHANGES;
    return {
      revision,
      state,
      problem: correction.problem,
      corrected: after.questions,
      questions: after.questions.map((question) => ({
        question: question.id,
        marks: {
          before: before.questions
            .filter(({ id: one }) => one === question.id)
            .reduce((_, one) => marksOf(one), 0),
          after: marksOf(question),
        },
        line: {
          before: lineOf(before.questions.find(({ id: one }) => one === question.id)),
          after: lineOf(question),
        },
        key: { before: before.keys[question.id]?.about ?? [], after: after.keys[question.id]?.about ?? [] },
      })),
      ...changes,
    };
  }

  private async changes(
    caller: Caller,
    exercise: ExerciseRecord,
    revision: number,
  ): Promise<Pick<CorrectionInfo, 'students' | 'unchanged' | 'adjusted'>> {
    const corrected = await this.submissions.forStaff(caller, exercise, { revision });
    // What came in since is marked before anything is applied, and then it is listed.
    const late = new Set(corrected.flatMap(({ id, result }) => (result ? [] : [id])));
    const listed = (all: readonly SubmissionInfo[]) => grouped(all.filter(({ id }) => !late.has(id)));
    const now = await this.submissions.forStaff(caller, exercise);
    const before = listed(now);
    const after = listed(corrected);
    const students = [...before].map(([personId, own]): MarkChange => {
      const marked = after.get(personId) ?? [];
      const questions = [...new Set(own.map(({ question }) => question))];
      const [were, are] = [own, marked].map((all) => marksByQuestion(all, exercise.counts));
      return {
        person: own[0]?.person ?? { id: personId, name: '' },
        marks: { before: marksIn(own, exercise.counts), after: marksIn(marked, exercise.counts) },
        answers: questions
          .map((question) => ({
            question,
            marks: { before: were?.get(question) ?? null, after: are?.get(question) ?? null },
          }))
          .filter(({ marks }) => marks.before !== marks.after),
      };
    });
    const changed = students.filter(({ answers }) => answers.length > 0);
    return {
      students: changed,
      unchanged: students.length - changed.length,
      adjusted: adjustedAmong(now, corrected),
    };
  }

  /**
   * Puts the correction in force: questions, keys, marks, and a new receipt for everyone whose receipt said something else.
   * Where answers came in meanwhile these are marked first, and nothing is applied yet.
   */
  async apply(caller: Caller, id: string, { notice, takenBack }: CorrectionApplied): Promise<void> {
    const computed = await correctionOf(caller.db, id);
    const asked = await this.exercises.find(caller, id);
    const pack = await this.briefs.rewritten(caller, asked, {}, computed.released);
    const isWhole = await caller.db.transaction(async (manager) => {
      await lockFor(manager, `exercise ${id}`);
      await this.exercises.find({ ...caller, db: manager }, id);
      const { id: correctionId, revision, state, released } = await correctionOf(manager, id);
      if (state !== 'ready' || !released || correctionId !== computed.id)
        throw conflict('not-ready', 'The correction is not computed yet: nothing can be applied.');
      const where = { exerciseId: id, revision };
      // A check that is under way sees the new revision, or is seen here.
      const exercise = await lockedExercise(manager, id);
      if (await unmarked(manager, exercise, revision)) {
        await manager.update(CorrectionRecord, where, { state: 'waiting' });
        await this.jobs.enqueue(manager, REGRADE_JOB, {
          courseId: exercise.courseId,
          exerciseId: id,
          correctionId,
        });
        await announce(manager, { courseId: exercise.courseId, to: 'staff', about: 'exercises' });
        return false;
      }
      const { questions } = await manager.findOneByOrFail(SheetRecord, where);
      await manager.update(ExerciseRecord, { id }, { revision, notice, marks: allMarks(questions) });
      await manager.update(PackRecord, { exerciseId: id }, pack);
      await this.review.takeBack(manager, caller, id, takenBack);
      // They are generated again when their students look next.
      await manager.delete(OwnSheetRecord, { exerciseId: id });
      await issueReceipts(manager, await this.exercises.find({ ...caller, db: manager }, id));
      await manager.delete(CorrectionRecord, { exerciseId: id });
      await note(manager, caller, 'correction applied', exercise.title, { notice });
      await announce(manager, { courseId: exercise.courseId, to: 'all', about: 'exercises' });
      return true;
    });
    if (!isWhole)
      throw conflict(
        'came-meanwhile',
        'Answers came in while you read the list. They are being marked; read it again then.',
      );
  }

  /** Leaves everything as it is. */
  drop(caller: Caller, id: string): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const { title, courseId } = await this.exercises.find({ ...caller, db: manager }, id);
      const dropped = await manager.delete(CorrectionRecord, { exerciseId: id });
      if (dropped.affected !== 1) throw NONE();
      await note(manager, caller, 'correction dropped', title);
      await announce(manager, { courseId, to: 'staff', about: 'exercises' });
    });
  }
}

const NONE = () =>
  conflict('no-correction', 'No correction of this exercise waits to be applied or dropped.');
const NO_CHANGES = { students: [], unchanged: 0, adjusted: [] };

const lineOf = (question: Question | undefined): MarkScheme | null =>
  question && 'scheme' in question ? question.scheme : null;

async function correctionOf(db: EntityManager, exerciseId: string): Promise<CorrectionRecord> {
  const correction = await db.findOneBy(CorrectionRecord, { exerciseId });
  if (!correction) throw NONE();
  return correction;
}

async function revisionOf(
  db: EntityManager,
  exerciseId: string,
  revision: number,
): Promise<{ questions: Question[]; keys: Readonly<Record<string, KeyOf>> }> {
  const { questions } = await db.findOneByOrFail(SheetRecord, { exerciseId, revision });
  const key = await db.findOneBy(AnswerKeyRecord, { exerciseId, revision });
  return { questions, keys: key ? unpackKeys(key.key) : {} };
}
