import type { ReleasedQuestion } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import { In, type EntityManager } from 'typeorm';
import type {
  ExerciseDetail,
  ExerciseSettings,
  ExerciseSummary,
  FileRules,
  QuestionSheet,
  SubmissionInfo,
} from '../api/api.js';
import { note } from '../audit/note.js';
import { isStaff, type Caller } from '../platform/access/access.js';
import { conflict, notFound, Problem } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { ownMarks } from './own-marks.js';
import { SheetRecord } from './answer-key.js';
import { ExerciseRecord, ExtensionRecord, PackRecord } from './exercise.entity.js';
import { listedExercises, ownRemark, staleExercises } from './exercises.sql.js';
import { OwnSheets } from './own-sheets.service.js';
import { keepNewSecret, secretOf } from './secret.entity.js';
import { checkSettings, columnsOf } from './settings.js';
import { staffDetail } from './staff-detail.js';
import {
  commonSheet,
  fileRules,
  isPersonal,
  personalSheet,
  questionsShown,
  usedAttempts,
  withUsed,
} from './sheets.js';
import { PACK_JOB } from './pack.job.js';

@Injectable()
export class Exercises {
  constructor(
    private readonly jobs: Jobs,
    private readonly ownSheets: OwnSheets,
  ) {}

  /** Exercises of the course; all but instructors see those that were released and are open. */
  async list(caller: Caller): Promise<ExerciseSummary[]> {
    const staff = isStaff(caller.role);
    const rows = await listedExercises(caller);
    const marks = staff ? new Map<string, number>() : await ownMarks(caller);
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
    await checkSettings(caller, settings);
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
    await checkSettings(caller, settings);
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
      await this.jobs.enqueue(manager, PACK_JOB, {
        courseId: caller.courseId,
        exerciseId: id,
        personId: caller.person.id,
      });
      await note(manager, caller, 'release begun', exercise.title, reason === '' ? {} : { reason });
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'exercises' });
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
    const staff = isStaff(caller.role) ? await staffDetail(caller, exercise) : null;
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
      slips: exercise.slips,
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
      remark: staff ? null : await ownRemark(caller, exercise),
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

  /** The rules by which the file of a question is checked. */
  async rulesOf(caller: Caller, id: string, questionId: string): Promise<FileRules> {
    await this.find(caller, id);
    const pack = await caller.db.findOneBy(PackRecord, { exerciseId: id });
    const question = pack?.questions.find((one) => one.id === questionId);
    const rules = question && fileRules(question);
    if (!rules) throw notFound();
    return rules;
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
}

/** A revision of an exercise that was never taken, neither by what was withdrawn nor by what was dropped. */
export async function nextRevision(db: EntityManager, exerciseId: string): Promise<number> {
  return ((await db.maximum(SheetRecord, 'revision', { exerciseId })) ?? 0) + 1;
}
