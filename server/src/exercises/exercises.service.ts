import { checkScheme, metricNamed } from '@modest-sieve/core';
import { Injectable } from '@nestjs/common';
import { In } from 'typeorm';
import type { ExerciseDetail, ExerciseSettings, ExerciseSummary } from '../api/api.js';
import { RolesRecord, VersionRecord, DataSetRecord } from '../datasets/dataset.entity.js';
import { note } from '../audit/note.js';
import { isStaff, type Caller } from '../platform/access/access.js';
import { conflict, notFound, Problem } from '../platform/errors/problem.js';
import { lockFor } from '../platform/database/lock.js';
import { announce } from '../platform/events/announce.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { FoldSetRecord, SplitRecord } from '../splits/split.entity.js';
import { Submissions } from '../submissions/submissions.service.js';
import { AnswerKeyRecord } from './answer-key.js';
import { ExerciseRecord, PackRecord } from './exercise.entity.js';

@Injectable()
export class Exercises {
  constructor(
    private readonly jobs: Jobs,
    private readonly submissions: Submissions,
  ) {}

  /** Exercises of the course; all but instructors see those that were released. */
  async list(caller: Caller): Promise<ExerciseSummary[]> {
    const staff = isStaff(caller.role);
    const rows: (Omit<ExerciseSummary, 'mark' | 'deadline'> & { deadline: Date })[] = await caller.db.query(
      `SELECT e.id, e.title, e.state, e.deadline, (e.scheme ->> 'marks')::float AS marks,
              count(s.id)::int AS submissions, count(DISTINCT s.person_id)::int AS people
         FROM exercise e LEFT JOIN submission s ON s.exercise_id = e.id AND ($2::uuid IS NULL OR s.person_id = $2)
        WHERE e.course_id = $1 AND ($3 OR e.state IN ('released', 'returned'))
        GROUP BY e.id ORDER BY e.deadline, e.created_at`,
      [caller.courseId, staff ? null : caller.person.id, caller.role === 'instructor'],
    );
    const marks = staff ? new Map<string, number>() : await this.submissions.marksOf(caller);
    return rows.map((row) => ({
      ...row,
      deadline: row.deadline.toISOString(),
      mark: marks.get(row.id) ?? null,
    }));
  }

  async make(caller: Caller, settings: ExerciseSettings): Promise<{ id: string }> {
    await this.checkSettings(caller, settings);
    const { id } = await caller.db.save(ExerciseRecord, {
      courseId: caller.courseId,
      ...settings,
      deadline: new Date(settings.deadline),
    });
    return { id };
  }

  async change(caller: Caller, id: string, settings: ExerciseSettings): Promise<void> {
    await this.checkSettings(caller, settings);
    const changed = await caller.db.update(
      ExerciseRecord,
      { id, courseId: caller.courseId, state: 'draft' },
      { ...settings, deadline: new Date(settings.deadline), problem: null },
    );
    if (changed.affected !== 1) {
      await this.find(caller, id);
      throw conflict('released', 'The exercise is released and no longer changes.');
    }
  }

  remove(caller: Caller, id: string): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const { title } = await this.find({ ...caller, db: manager }, id);
      const removed = await manager.delete(ExerciseRecord, { id, courseId: caller.courseId, state: 'draft' });
      if (removed.affected !== 1) throw conflict('released', 'Only a draft can be deleted.');
      await note(manager, caller, 'draft deleted', title);
    });
  }

  /** Starts the making of the pack; the exercise is released when it is made. */
  release(caller: Caller, id: string): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const exercise = await this.find({ ...caller, db: manager }, id);
      if (exercise.state !== 'draft') throw conflict('released', 'The exercise is released already.');
      if (exercise.deadline <= caller.at)
        throw new Problem(422, 'deadline', 'The deadline is in the past. Set a later one.');
      const taken = await manager.update(
        ExerciseRecord,
        { id, state: 'draft' },
        { state: 'packing', problem: null },
      );
      if (taken.affected !== 1) throw conflict('released', 'The exercise is being released already.');
      await this.jobs.enqueue(manager, 'pack', { courseId: caller.courseId, exerciseId: id });
      await note(manager, caller, 'exercise released', exercise.title);
      await announce(manager, { courseId: caller.courseId, to: 'staff' });
    });
  }

  /** Gives marks and final figures back to students: every receipt is written in the transaction that closes the exercise. */
  return(caller: Caller, id: string): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const exercise = await this.find({ ...caller, db: manager }, id);
      await lockFor(manager, `exercise ${id}`);
      const taken = await manager.update(
        ExerciseRecord,
        { id, state: 'released' },
        { state: 'returned', returnedAt: caller.at },
      );
      if (taken.affected !== 1) throw conflict('not-open', 'Only a released exercise can be returned.');
      await this.submissions.discloseAll(manager, exercise);
      await note(manager, caller, 'exercise returned', exercise.title);
      await announce(manager, { courseId: caller.courseId, to: 'all' });
    });
  }

  /** An exercise that the caller may know of; a draft is unknown to all but instructors. */
  async find(caller: Caller, id: string): Promise<ExerciseRecord> {
    const where = { id, courseId: caller.courseId };
    const exercise = await caller.db.findOneBy(
      ExerciseRecord,
      caller.role === 'instructor' ? where : { ...where, state: In(['released', 'returned']) },
    );
    if (!exercise) throw notFound();
    return exercise;
  }

  async detail(caller: Caller, id: string): Promise<ExerciseDetail> {
    const exercise = await this.find(caller, id);
    const pack = await caller.db.findOneBy(PackRecord, { exerciseId: id });
    const staff = isStaff(caller.role) ? await this.staffDetail(caller, exercise) : null;
    return {
      id: exercise.id,
      splitId: exercise.splitId,
      foldSetId: exercise.foldSetId,
      title: exercise.title,
      brief: exercise.brief,
      metric: exercise.metric,
      scheme: exercise.scheme,
      attempts: exercise.attempts,
      counts: exercise.counts,
      deadline: exercise.deadline.toISOString(),
      feedback: exercise.feedback,
      state: exercise.state,
      task: staff?.task ?? pack?.rules.task ?? 'binary',
      target: staff?.target ?? '',
      dataSet: staff?.dataSet ?? null,
      audit: staff?.audit ?? null,
      problem: staff ? exercise.problem : null,
      pack: pack
        ? { files: pack.files, bytes: pack.files.reduce((total, file) => total + file.bytes, 0) }
        : null,
      rules: pack?.rules ?? null,
      used: caller.role === 'student' ? await this.submissions.used(caller.db, id, caller.person.id) : 0,
      now: caller.at.toISOString(),
    };
  }

  private async staffDetail(caller: Caller, exercise: ExerciseRecord) {
    const split = await caller.db.findOneByOrFail(SplitRecord, { id: exercise.splitId });
    const version = await caller.db.findOneByOrFail(VersionRecord, { id: split.versionId });
    const dataSet = await caller.db.findOneByOrFail(DataSetRecord, { id: version.dataSetId });
    const { roles } = await caller.db.findOneByOrFail(RolesRecord, { id: split.rolesId });
    const key = await caller.db.findOneBy(AnswerKeyRecord, {
      exerciseId: exercise.id,
      revision: exercise.revision,
    });
    return {
      task: roles.task,
      target: roles.target,
      dataSet: { id: dataSet.id, name: dataSet.name },
      audit: key?.audit ?? null,
    };
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

  private async checkSettings(caller: Caller, settings: ExerciseSettings): Promise<void> {
    const metric = metricNamed(settings.metric);
    const [split]: { roles: { task: ExerciseDetail['task'] } }[] = await caller.db.query(
      `SELECT r.roles FROM split s JOIN column_roles r ON r.id = s.roles_id
         JOIN data_set_version v ON v.id = s.version_id JOIN data_set d ON d.id = v.data_set_id
        WHERE s.id = $1 AND d.course_id = $2`,
      [settings.splitId, caller.courseId],
    );
    if (!split)
      throw new Problem(422, 'no-such-split', 'Choose a split that was kept in this course.', {
        field: 'splitId',
      });
    if (!metric.tasks.includes(split.roles.task)) {
      throw new Problem(422, 'metric', `${metric.name} does not judge this task.`, { field: 'metric' });
    }
    checkScheme(settings.scheme, metric);
    const { foldSetId, splitId } = settings;
    if (foldSetId !== null && !(await caller.db.existsBy(FoldSetRecord, { id: foldSetId, splitId })))
      throw new Problem(422, 'no-such-folds', 'Choose folds of the training rows of this split.', {
        field: 'foldSetId',
      });
  }
}
