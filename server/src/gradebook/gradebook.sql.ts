import type { Caller } from '../platform/access/access.js';
import { LATEST_RECEIPT } from '../exercises/own-marks.js';

/** As much of a submission as its marks depend on. */
export interface GradedAnswer {
  readonly exerciseId: string;
  readonly personId: string;
  readonly question: string;
  readonly number: number;
  readonly receivedAt: Date;
  readonly checked: boolean;
  /** As they were found, and what decides which answer counts. */
  readonly marks: number | null;
  readonly standing: number | null;
  /** Given by hand in their place; null for none. */
  readonly adjusted: number | null;
}

/** All submissions to the exercises of a course that were released, by the results of their revision. */
export const gradedAnswers = (caller: Caller): Promise<readonly GradedAnswer[]> =>
  caller.db.query(
    `SELECT s.exercise_id AS "exerciseId", s.person_id AS "personId", s.question, s.number,
            s.received_at AS "receivedAt", r.outcome = 'checked' AS checked,
            (v.result ->> 'marks')::float AS marks, (v.result ->> 'standing')::float AS standing, a.marks AS adjusted
       FROM submission s
       JOIN exercise e ON e.id = s.exercise_id
       ${LATEST_RECEIPT}
       LEFT JOIN LATERAL (SELECT result FROM vault.result WHERE submission_id = s.id AND revision = e.revision
                           ORDER BY created_at DESC LIMIT 1) v ON true
       LEFT JOIN LATERAL (SELECT marks FROM vault.adjustment WHERE submission_id = s.id
                           ORDER BY number DESC LIMIT 1) a ON true
      WHERE e.course_id = $1 AND e.state IN ('released', 'returned')`,
    [caller.courseId],
  );

export interface CourseStudent {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly section: string | null;
}

/** The students of a course by name. */
export const studentsOf = (caller: Caller): Promise<readonly CourseStudent[]> =>
  caller.db.query(
    `SELECT p.id, p.name, p.email, m.section FROM membership m JOIN identity.person p ON p.id = m.person_id
      WHERE m.course_id = $1 AND m.role = 'student' ORDER BY p.name, p.id`,
    [caller.courseId],
  );

/** Deadlines of single students, by exercise and person. */
export async function extensionsIn(caller: Caller): Promise<Map<string, Date>> {
  const rows: { exerciseId: string; personId: string; deadline: Date }[] = await caller.db.query(
    `SELECT x.exercise_id AS "exerciseId", x.person_id AS "personId", x.deadline
       FROM extension x JOIN exercise e ON e.id = x.exercise_id WHERE e.course_id = $1`,
    [caller.courseId],
  );
  return new Map(rows.map(({ exerciseId, personId, deadline }) => [`${exerciseId} ${personId}`, deadline]));
}

/** Who is excused from which exercise of a course, as exercise and person. */
export async function excusedIn(caller: Caller): Promise<Set<string>> {
  const rows: { exerciseId: string; personId: string }[] = await caller.db.query(
    `SELECT x.exercise_id AS "exerciseId", x.person_id AS "personId"
       FROM excused x JOIN exercise e ON e.id = x.exercise_id WHERE e.course_id = $1`,
    [caller.courseId],
  );
  return new Set(rows.map(({ exerciseId, personId }) => `${exerciseId} ${personId}`));
}
