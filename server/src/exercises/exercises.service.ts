import type { Roles } from '@modest-sieve/core/data';
import { checkQuestions, marksOf, type ReleasedQuestion, type Question } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import { In, type EntityManager } from 'typeorm';
import type {
  ExerciseDetail,
  ExerciseSettings,
  ExerciseSummary,
  QuestionSheet,
  SubmissionInfo,
} from '../api/api.js';
import { versionAddress } from '../datasets/version-address.js';
import { DataSetRecord, RolesRecord, VersionRecord } from '../datasets/dataset.entity.js';
import { note } from '../audit/note.js';
import { isStaff, type Caller } from '../platform/access/access.js';
import { conflict, notFound, Problem } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { FoldSetRecord, SeedSensitivity } from '../splits/split.entity.js';
import { Submissions } from '../submissions/submissions.service.js';
import { AnswerKeyRecord, CorrectionRecord, SheetRecord, unpackKeys } from './answer-key.js';
import { ExerciseRecord, ExtensionRecord, PackRecord } from './exercise.entity.js';
import { IS_STALE } from './material.js';
import { extensionsOf } from './policy.js';
import { OwnSheets } from './own-sheets.service.js';
import { keepNewSecret, secretOf } from './secret.entity.js';
import { commonSheet, isPersonal, personalSheet, questionsShown, usedAttempts, withUsed } from './sheets.js';

@Injectable()
export class Exercises {
  constructor(
    private readonly jobs: Jobs,
    private readonly submissions: Submissions,
    private readonly ownSheets: OwnSheets,
  ) {}

  /** Exercises of the course; all but instructors see those that were released and are open. */
  async list(caller: Caller): Promise<ExerciseSummary[]> {
    const staff = isStaff(caller.role);
    const rows: (Omit<ExerciseSummary, 'mark' | 'deadline' | 'opensAt' | 'stale'> & {
      deadline: Date;
      opensAt: Date | null;
    })[] = await caller.db.query(
      `SELECT e.id, e.title, e.state, e.opens_at AS "opensAt", coalesce(x.deadline, e.deadline) AS deadline, e.marks,
              count(s.id)::int AS submissions, count(DISTINCT s.person_id)::int AS people,
              count(DISTINCT s.question) FILTER (WHERE r.outcome IS NULL OR r.outcome = 'checked')::int AS answered,
              coalesce(jsonb_array_length(p.questions), 0) AS questions
         FROM exercise e
         LEFT JOIN pack p ON p.exercise_id = e.id
         LEFT JOIN extension x ON x.exercise_id = e.id AND x.person_id = $2
         LEFT JOIN submission s ON s.exercise_id = e.id AND ($2::uuid IS NULL OR s.person_id = $2)
         -- Whether it was checked is the same in every later receipt.
         LEFT JOIN receipt r ON r.submission_id = s.id AND r.stage = 'open' AND r.issue = 1
        WHERE e.course_id = $1 AND ($3 OR e.state IN ('released', 'returned'))
          AND ($4 OR e.opens_at IS NULL OR e.opens_at <= $5)
        GROUP BY e.id, x.deadline, p.exercise_id ORDER BY e.deadline, e.created_at`,
      [caller.courseId, staff ? null : caller.person.id, caller.role === 'instructor', staff, caller.at],
    );
    const marks = staff ? new Map<string, number>() : await this.submissions.marksOf(caller);
    const stale = staff ? await staleExercises(caller) : new Set<string>();
    return rows.map((row) => ({
      ...row,
      stale: stale.has(row.id),
      opensAt: row.opensAt?.toISOString() ?? null,
      deadline: row.deadline.toISOString(),
      mark: marks.get(row.id) ?? null,
    }));
  }

  async make(caller: Caller, settings: ExerciseSettings): Promise<{ id: string }> {
    await this.checkSettings(caller, settings);
    return caller.db.transaction(async (manager) => {
      const { id } = await manager.save(ExerciseRecord, {
        courseId: caller.courseId,
        madeBy: caller.person.id,
        ...columnsOf(settings),
      });
      await keepNewSecret(manager, id);
      await manager.insert(SheetRecord, { exerciseId: id, revision: 1, questions: [...settings.questions] });
      return { id };
    });
  }

  async change(caller: Caller, id: string, settings: ExerciseSettings): Promise<void> {
    await this.checkSettings(caller, settings);
    await caller.db.transaction(async (manager) => {
      const changed = await manager.update(
        ExerciseRecord,
        { id, courseId: caller.courseId, state: 'draft' },
        { ...columnsOf(settings), problem: null },
      );
      if (changed.affected !== 1) {
        await this.find(caller, id);
        throw conflict('released', 'The exercise is released. Withdraw it, or amend what may still change.');
      }
      const { revision } = await manager.findOneByOrFail(ExerciseRecord, { id });
      await manager.save(SheetRecord, { exerciseId: id, revision, questions: [...settings.questions] });
    });
  }

  remove(caller: Caller, id: string): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const { title } = await this.find({ ...caller, db: manager }, id);
      const removed = await manager.delete(ExerciseRecord, { id, courseId: caller.courseId, state: 'draft' });
      if (removed.affected !== 1) throw conflict('released', 'Only a draft can be deleted.');
      await note(manager, caller, 'draft deleted', title);
    });
  }

  /** Starts the making of pack and keys; the exercise is released when they are made. */
  release(caller: Caller, id: string, reason: string): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const exercise = await this.find({ ...caller, db: manager }, id);
      if (exercise.state !== 'draft') throw conflict('released', 'The exercise is released already.');
      if (exercise.deadline <= caller.at)
        throw new Problem(422, 'deadline', 'The deadline is in the past. Set a later one.');
      const taken = await manager.update(
        ExerciseRecord,
        { id, state: 'draft' },
        { state: 'packing', problem: null, reason },
      );
      if (taken.affected !== 1) throw conflict('released', 'The exercise is being released already.');
      await this.jobs.enqueue(manager, 'pack', {
        courseId: caller.courseId,
        exerciseId: id,
        personId: caller.person.id,
      });
      await note(manager, caller, 'release begun', exercise.title, reason === '' ? {} : { reason });
      await announce(manager, { courseId: caller.courseId, to: 'staff' });
    });
  }

  /** An exercise that the caller may know of; a draft is unknown to all but instructors, and one that is not open yet to students. */
  async find(caller: Caller, id: string): Promise<ExerciseRecord> {
    const where = { id, courseId: caller.courseId };
    const exercise = await caller.db.findOneBy(
      ExerciseRecord,
      caller.role === 'instructor' ? where : { ...where, state: In(['released', 'returned']) },
    );
    const isClosed = !isStaff(caller.role) && exercise?.opensAt != null && exercise.opensAt > caller.at;
    if (!exercise || isClosed) throw notFound();
    return exercise;
  }

  async detail(caller: Caller, id: string): Promise<ExerciseDetail> {
    const exercise = await this.find(caller, id);
    const pack = await caller.db.findOneBy(PackRecord, { exerciseId: id });
    const staff = isStaff(caller.role) ? await this.staffDetail(caller, exercise) : null;
    const used = staff ? null : await usedAttempts(caller.db, id, caller.person.id, caller.at);
    const asked = pack?.questions ?? [];
    const shown = staff ? null : await questionsShown(caller.db, exercise, caller.person.id, asked);
    const own = staff
      ? null
      : await caller.db.findOneBy(ExtensionRecord, { exerciseId: id, personId: caller.person.id });
    return {
      id: exercise.id,
      splitId: exercise.splitId,
      foldSetId: exercise.foldSetId,
      reissued: exercise.reissued,
      title: exercise.title,
      brief: exercise.brief,
      notice: exercise.notice,
      marks: exercise.marks,
      attempts: exercise.attempts,
      perDay: exercise.perDay,
      counts: exercise.counts,
      opensAt: exercise.opensAt?.toISOString() ?? null,
      deadline: (own?.deadline ?? exercise.deadline).toISOString(),
      graceMinutes: exercise.graceMinutes,
      latePercent: exercise.latePercent,
      lateDays: exercise.lateDays,
      feedback: exercise.feedback,
      state: exercise.state,
      composed: null,
      roles: null,
      dataSet: null,
      audit: null,
      keys: null,
      extensions: null,
      problem: null,
      stale: false,
      correction: null,
      ...staff,
      sheets: (await this.sheetsOf(caller, exercise, asked)).map((sheet) =>
        withUsed(sheet, used?.get(sheet.id), shown?.has(sheet.id)),
      ),
      pack: pack
        ? { files: pack.files, bytes: pack.files.reduce((total, file) => total + file.bytes, 0) }
        : null,
      now: caller.at.toISOString(),
    };
  }

  /** The questions as the caller sees them. The secret is for staff alone: students get what a job generated. */
  private async sheetsOf(
    caller: Caller,
    exercise: ExerciseRecord,
    questions: readonly ReleasedQuestion[],
  ): Promise<QuestionSheet[]> {
    if (isStaff(caller.role)) {
      const secret = await secretOf(caller.db, exercise.id);
      return questions.map((question) => personalSheet(question, secret, caller.person.id));
    }
    const own = questions.some(isPersonal)
      ? await this.ownSheets.of(caller, exercise, questions)
      : new Map<string, QuestionSheet>();
    return questions.map((question) => own.get(question.id) ?? commonSheet(question));
  }

  private async staffDetail({ db, role }: Caller, exercise: ExerciseRecord) {
    const { id: exerciseId, revision } = exercise;
    const split = await db.findOneByOrFail(SeedSensitivity, { id: exercise.splitId });
    const version = await db.findOneByOrFail(VersionRecord, { id: split.versionId });
    const dataSet = await db.findOneByOrFail(DataSetRecord, { id: version.dataSetId });
    const { roles } = await db.findOneByOrFail(RolesRecord, { id: split.rolesId });
    const key = await db.findOneBy(AnswerKeyRecord, { exerciseId, revision });
    const sheet = await db.findOneByOrFail(SheetRecord, { exerciseId, revision });
    const extensions = await extensionsOf(db, exerciseId);
    const correction = await db.findOneBy(CorrectionRecord, { exerciseId });
    const stale = await staleExercises({ db, courseId: exercise.courseId });
    return {
      composed: role === 'instructor' ? sheet.questions : null,
      roles,
      dataSet: { address: versionAddress(dataSet.id, version.number), name: dataSet.name },
      audit: key?.audit ?? null,
      keys: key && Object.entries(unpackKeys(key.key)).map(([question, { about }]) => ({ question, about })),
      problem: exercise.problem,
      stale: stale.has(exerciseId),
      correction: role === 'instructor' ? (correction?.state ?? null) : null,
      extensions: [...extensions].map(([personId, deadline]) => ({
        personId,
        deadline: deadline.toISOString(),
      })),
    };
  }

  /** The question of a submission as its student sees it: the student's own draw. */
  async sheetFor(
    { db }: Caller,
    { id: exerciseId }: ExerciseRecord,
    { question: id, person }: Pick<SubmissionInfo, 'question' | 'person'>,
  ): Promise<QuestionSheet | null> {
    const pack = await db.findOneBy(PackRecord, { exerciseId });
    const question = pack?.questions.find((one) => one.id === id);
    return question ? personalSheet(question, await secretOf(db, exerciseId), person.id) : null;
  }

  async pack(caller: Caller, id: string): Promise<{ zip: Buffer; title: string }> {
    const exercise = await this.find(caller, id);
    const pack = await caller.db.findOne(PackRecord, {
      where: { exerciseId: id },
      select: { exerciseId: true, zip: true },
    });
    if (!pack) throw notFound();
    return { zip: pack.zip, title: exercise.title };
  }

  /** @throws Problem, SieveError with the setting that does not fit */
  async checkSettings(caller: Caller, settings: Omit<ExerciseSettings, 'title' | 'brief'>): Promise<void> {
    const { foldSetId, splitId, questions, opensAt, deadline } = settings;
    await this.checkQuestionsOn(caller, splitId, questions);
    if (opensAt !== null && new Date(opensAt) >= new Date(deadline))
      throw new Problem(422, 'opens-at', 'It opens after its deadline. Set an earlier time.', {
        field: 'opensAt',
      });
    if (foldSetId !== null && !(await caller.db.existsBy(FoldSetRecord, { id: foldSetId, splitId })))
      throw new Problem(422, 'no-such-folds', 'Choose folds of the training rows of this split.', {
        field: 'foldSetId',
      });
  }

  /** @throws Problem, SieveError with the first question that does not fit the data of a split */
  async checkQuestionsOn(
    { db, courseId }: Caller,
    splitId: string,
    questions: readonly Question[],
  ): Promise<void> {
    const { roles, version } = await this.splitFor(db, courseId, splitId);
    checkQuestions(questions, { columns: version.profile, roles });
  }

  private async splitFor(
    db: EntityManager,
    courseId: string,
    splitId: string,
  ): Promise<{ roles: Roles; version: VersionRecord }> {
    const split = await db.findOneBy(SeedSensitivity, { id: splitId });
    const version = split && (await db.findOneBy(VersionRecord, { id: split.versionId }));
    const known = version && (await db.existsBy(DataSetRecord, { id: version.dataSetId, courseId }));
    if (!split || !known)
      throw new Problem(422, 'no-such-split', 'Choose a split that was kept in this course.', {
        field: 'splitId',
      });
    const { roles } = await db.findOneByOrFail(RolesRecord, { id: split.rolesId });
    return { roles, version };
  }
}

export const allMarks = (questions: readonly Question[]): number =>
  questions.reduce((sum, question) => sum + marksOf(question), 0);

/** A revision of an exercise that was never taken, neither by what was withdrawn nor by what was dropped. */
export async function nextRevision(db: EntityManager, exerciseId: string): Promise<number> {
  return ((await db.maximum(SheetRecord, 'revision', { exerciseId })) ?? 0) + 1;
}

/** Exercises of a course whose keys were computed from reference runs that are others now. */
async function staleExercises({ db, courseId }: Pick<Caller, 'db' | 'courseId'>): Promise<Set<string>> {
  const stale: { id: string }[] = await db.query(
    `SELECT e.id FROM exercise e
       JOIN vault.answer_key k ON k.exercise_id = e.id AND k.revision = e.revision
      WHERE e.course_id = $1 AND ${IS_STALE}`,
    [courseId],
  );
  return new Set(stale.map(({ id }) => id));
}

/** Settings as the columns of an exercise. */
const columnsOf = ({ questions, deadline, opensAt, ...settings }: ExerciseSettings) => ({
  ...settings,
  marks: allMarks(questions),
  deadline: new Date(deadline),
  opensAt: opensAt === null ? null : new Date(opensAt),
});
