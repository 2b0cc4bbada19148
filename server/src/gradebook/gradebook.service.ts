import { writeSpreadsheetCsv } from '@modest-sieve/core/data';
import { Injectable } from '@nestjs/common';
import { In } from 'typeorm';
import type { Gradebook } from '../api/api.js';
import { ExerciseRecord } from '../exercises/exercise.entity.js';
import type { Caller } from '../platform/access/access.js';
import { marksIn } from '../submissions/class-view.js';
import { Submissions } from '../submissions/submissions.service.js';

@Injectable()
export class Gradebooks {
  constructor(private readonly submissions: Submissions) {}

  async gradebook(caller: Caller): Promise<Gradebook> {
    const exercises = await caller.db.find(ExerciseRecord, {
      where: { courseId: caller.courseId, state: In(['released', 'returned']) },
      order: { deadline: 'ASC', createdAt: 'ASC' },
    });
    const students: { id: string; name: string; email: string }[] = await caller.db.query(
      `SELECT p.id, p.name, p.email FROM membership m JOIN identity.person p ON p.id = m.person_id
        WHERE m.course_id = $1 AND m.role = 'student' ORDER BY p.name, p.id`,
      [caller.courseId],
    );
    const marks = await Promise.all(exercises.map((exercise) => this.marksIn(caller, exercise)));
    return {
      exercises: exercises.map((e) => ({ id: e.id, title: e.title, marks: e.marks, state: e.state })),
      students: students.map((student) => ({
        ...student,
        marks: marks.map((m) => m.get(student.id) ?? null),
      })),
    };
  }

  private async marksIn(caller: Caller, exercise: ExerciseRecord): Promise<Map<string, number>> {
    const submissions = await this.submissions.forStaff(caller, exercise);
    const marks = new Map<string, number>();
    for (const id of new Set(submissions.map((s) => s.person.id))) {
      const own = marksIn(
        submissions.filter((s) => s.person.id === id),
        exercise.counts,
      );
      if (own !== null) marks.set(id, own);
    }
    return marks;
  }

  /** One line for each student; texts that a spreadsheet would take for formulas are neutralised. */
  async csv(caller: Caller): Promise<string> {
    const { exercises, students } = await this.gradebook(caller);
    return writeSpreadsheetCsv(
      ['name', 'address', ...exercises.map((e) => `${e.title} (of ${e.marks})`)],
      students.map((s) => [s.name, s.email, ...s.marks]),
    );
  }
}
