import type { ClassView, SubmissionInfo } from '../api/api.js';
import { Membership } from '../courses/course.entity.js';
import type { ExerciseRecord } from '../exercises/exercise.entity.js';
import type { Caller } from '../platform/access/access.js';
import { countingSubmission } from './counting.js';

/** A student and the submission that counts for them. */
export function countingOf(submissions: readonly SubmissionInfo[], counts: ExerciseRecord['counts']) {
  return countingSubmission(
    submissions.map((s) => ({ ...s, marks: s.result?.marks ?? null })),
    counts,
  );
}

/** Every student of the course with what they handed in, students without a submission included. */
export async function classView(
  caller: Caller,
  exercise: ExerciseRecord,
  submissions: readonly SubmissionInfo[],
): Promise<ClassView> {
  const students: { id: string; name: string }[] = await caller.db.query(
    `SELECT p.id, p.name FROM membership m JOIN identity.person p ON p.id = m.person_id
      WHERE m.course_id = $1 AND m.role = $2 ORDER BY p.name, p.id`,
    [caller.courseId, 'student' satisfies Membership['role']],
  );
  const byPerson = grouped(submissions);
  return {
    lines: students.map((person) => {
      const own = byPerson.get(person.id) ?? [];
      const counting = countingOf(own, exercise.counts);
      return {
        person,
        submissions: own.length,
        waiting: own.filter((s) => s.outcome === 'waiting').length,
        counting: counting?.id ?? null,
        score: counting?.result?.final?.score.value ?? null,
        marks: counting?.marks ?? null,
        lastAt: own.at(-1)?.receivedAt ?? null,
      };
    }),
    submissions: submissions.map((s) => ({
      id: s.id,
      personId: s.person.id,
      number: s.number,
      receivedAt: s.receivedAt,
      outcome: s.outcome,
    })),
  };
}

function grouped(submissions: readonly SubmissionInfo[]): Map<string, SubmissionInfo[]> {
  const byPerson = new Map<string, SubmissionInfo[]>();
  for (const s of submissions) byPerson.set(s.person.id, [...(byPerson.get(s.person.id) ?? []), s]);
  return byPerson;
}
