import {
  checkGradePlan,
  countingAnswer,
  gradeTotal,
  marksOfAnswer,
  PLAIN_PLAN,
  standingOf,
  type Graded,
  type GradePlan,
} from '@modest-sieve/core/assessment';
import { groupedBy, medianOf } from '@modest-sieve/core/foundation';
import { Injectable } from '@nestjs/common';
import { In } from 'typeorm';
import type { GradeCell, Gradebook, OwnGrades } from '../api/api.js';
import { note } from '../audit/note.js';
import { ExerciseRecord } from '../exercises/exercise.entity.js';
import { ownMarks, totalMarks } from '../exercises/own-marks.js';
import { lateness } from '../exercises/policy.js';
import type { Caller } from '../platform/access/access.js';
import { notFound } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { ExcusedRecord, GradePlanRecord } from './gradebook.entity.js';
import { excusedIn, extensionsIn, gradedAnswers, studentsOf, type GradedAnswer } from './gradebook.sql.js';

/** Marks of a course: students by exercises, and what they come to. */
@Injectable()
export class Gradebooks {
  async gradebook(caller: Caller): Promise<Gradebook> {
    const exercises = await exercisesOf(caller);
    const [students, answers, excused, extensions, plan] = [
      await studentsOf(caller),
      await gradedAnswers(caller),
      await excusedIn(caller),
      await extensionsIn(caller),
      await planOf(caller),
    ];
    const byCell = groupedBy(answers, ({ exerciseId, personId }) => `${exerciseId} ${personId}`);
    const graded = students.map((student) => {
      const cells = exercises.map((exercise): GradeCell => {
        const place = `${exercise.id} ${student.id}`;
        return {
          ...cellOf(exercise, byCell.get(place) ?? [], extensions.get(place)),
          excused: excused.has(place),
        };
      });
      const total = gradeTotal(
        plan,
        exercises.map((exercise, i) => gradedOf(exercise, cells[i] ?? { marks: null, excused: false })),
      );
      return { ...student, cells, total };
    });
    return {
      plan,
      exercises: exercises.map(({ id, title, marks, state, opensAt, releasedAt, createdAt, deadline }, i) => {
        const own = graded.flatMap(({ cells }) => cells[i]?.marks ?? []);
        const mean = own.length === 0 ? null : own.reduce((a, b) => a + b, 0) / own.length;
        return {
          ...{ id, title, marks, state, deadline: deadline.toISOString() },
          opensAt: (opensAt ?? releasedAt ?? createdAt).toISOString(),
          ...{ marked: own.length, mean, median: own.length === 0 ? null : medianOf(Float64Array.from(own)) },
        };
      }),
      students: graded,
    };
  }

  /** The marks of the student who asks, of what is returned. */
  async own(caller: Caller): Promise<OwnGrades> {
    const returned = (await exercisesOf(caller)).filter(({ state }) => state === 'returned');
    const marks = await ownMarks(caller);
    const excused = await excusedIn(caller);
    const exercises = returned.map((exercise) => ({
      exercise,
      marks: marks.get(exercise.id) ?? null,
      excused: excused.has(`${exercise.id} ${caller.person.id}`),
    }));
    return {
      exercises: exercises.map(({ exercise: { id, title, marks: outOf }, ...own }) => ({
        ...{ id, title, outOf },
        ...own,
      })),
      total: gradeTotal(
        await planOf(caller),
        exercises.map(({ exercise, ...own }) => gradedOf(exercise, own)),
      ),
    };
  }

  /** @throws SieveError `grade-plan` with the field; Problem where it names an exercise that the course has not */
  setPlan(caller: Caller, plan: GradePlan): Promise<void> {
    checkGradePlan(plan);
    return caller.db.transaction(async (manager) => {
      const ids = plan.exercises.map(({ exercise }) => exercise);
      const found = await manager.countBy(ExerciseRecord, { id: In(ids), courseId: caller.courseId });
      if (found < new Set(ids).size) throw notFound();
      await manager.save(GradePlanRecord, { courseId: caller.courseId, plan });
      await note(manager, caller, 'grades weighed', '', {
        categories: plan.categories
          .map(({ name, weight, drop }) => `${name} ${weight}, drops ${drop}`)
          .join('; '),
      });
      await announce(manager, { courseId: caller.courseId, to: 'all', about: 'submissions' });
    });
  }

  /** Lets an exercise count for a student, or not. */
  setExcused(caller: Caller, exerciseId: string, personId: string, excused: boolean): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const exercise = await manager.findOneBy(ExerciseRecord, { id: exerciseId, courseId: caller.courseId });
      const student = (await studentsOf({ ...caller, db: manager })).find(({ id }) => id === personId);
      if (!exercise || !student) throw notFound();
      if (excused) await manager.save(ExcusedRecord, { exerciseId, personId });
      else await manager.delete(ExcusedRecord, { exerciseId, personId });
      await note(manager, caller, excused ? 'excused' : 'no longer excused', student.name, {
        exercise: exercise.title,
      });
      await announce(manager, { courseId: caller.courseId, to: personId, about: 'submissions' });
    });
  }
}

/** Exercises that students have had, by deadline. */
const exercisesOf = ({ db, courseId }: Caller): Promise<ExerciseRecord[]> =>
  db.find(ExerciseRecord, {
    where: { courseId, state: In(['released', 'returned']) },
    order: { deadline: 'ASC', createdAt: 'ASC' },
  });

const planOf = async ({ db, courseId }: Caller): Promise<GradePlan> =>
  (await db.findOneBy(GradePlanRecord, { courseId }))?.plan ?? PLAIN_PLAN;

const gradedOf = (
  { id, title, marks: outOf, state }: ExerciseRecord,
  { marks, excused }: Pick<GradeCell, 'marks' | 'excused'>,
): Graded => ({ id, title, outOf, marks, excused, returned: state === 'returned' });

/** What a student's answers to an exercise come to. */
function cellOf(
  exercise: ExerciseRecord,
  answers: readonly GradedAnswer[],
  deadline: Date | undefined,
): Pick<GradeCell, 'marks' | 'latePercent'> {
  const counted = answers.map(({ adjusted, ...answer }) => {
    const latePercent = lateness(exercise, deadline, answer.receivedAt);
    const adjustment = adjusted === null ? null : { marks: adjusted, reason: '' };
    return {
      ...answer,
      latePercent,
      marks: marksOfAnswer(answer, latePercent, adjustment),
      standing: standingOf(answer, latePercent, adjustment),
    };
  });
  const counting = [...new Set(counted.map(({ question }) => question))].flatMap((question) => {
    const one = countingAnswer(
      counted.filter((answer) => answer.question === question),
      exercise.counts,
    );
    return one ? [one] : [];
  });
  return {
    marks: totalMarks(counted, exercise.counts),
    latePercent: Math.max(0, ...counting.map(({ latePercent }) => latePercent)),
  };
}
