import { conditionLines, type BriefHead, type ReleasedQuestion } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { CourseRecord } from '../courses/course.entity.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { conflict } from '../platform/errors/problem.js';
import { PackRecord, zipped, type ExerciseRecord } from './exercise.entity.js';
import { EXERCISE_TASKS } from './exercise.tasks.js';

const SECONDS = 60;

type BriefFields = Pick<
  ExerciseRecord,
  | 'id'
  | 'courseId'
  | 'title'
  | 'brief'
  | 'attempts'
  | 'perDay'
  | 'counts'
  | 'deadline'
  | 'graceMinutes'
  | 'latePercent'
  | 'lateDays'
>;

/** What the brief in the pack of an exercise says around its questions. */
export async function briefHead(db: EntityManager, exercise: BriefFields): Promise<BriefHead> {
  const { timeZone } = await db.findOneOrFail(CourseRecord, {
    where: { id: exercise.courseId },
    select: { id: true, timeZone: true },
  });
  const { title, brief, deadline } = exercise;
  return { title, brief, conditions: conditionLines(exercise, deadline.toISOString(), timeZone) };
}

/** The brief in the pack that students have, written again when what it says changes. */
@Injectable()
export class Briefs {
  constructor(private readonly compute: Compute) {}

  /**
   * The pack with another brief, to be stored.
   *
   * @param exercise as it is
   * @param changes what is amended of it
   * @param questions corrected ones; null for those of the pack
   */
  async rewritten(
    caller: Caller,
    exercise: BriefFields,
    changes: Partial<BriefFields>,
    questions: ReleasedQuestion[] | null = null,
  ): Promise<Pick<PackRecord, 'zip' | 'sha256' | 'files' | 'questions'>> {
    const pack = await caller.db.findOne(PackRecord, {
      where: { exerciseId: exercise.id },
      select: { exerciseId: true, zip: true, files: true, questions: true },
    });
    if (!pack) throw conflict('not-open', 'Only an open exercise can be amended.');
    const asked = questions ?? pack.questions;
    const { zip, files } = await this.compute.run(
      EXERCISE_TASKS.rebrief,
      {
        pack: { zip: new Uint8Array(pack.zip), files: pack.files, questions: asked },
        head: await briefHead(caller.db, Object.assign({}, exercise, changes)),
      },
      within(caller, SECONDS),
    );
    return { ...zipped(zip), files: [...files], questions: asked };
  }
}
