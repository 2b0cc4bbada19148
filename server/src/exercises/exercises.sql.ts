import type { ExerciseSummary } from '../api/api.js';
import { isStaff, type Caller } from '../platform/access/access.js';
import type { ExerciseRecord } from './exercise.entity.js';
import { IS_STALE } from './material.js';

/** A line of the list of exercises, but for what is not in it. */
interface Listed extends Omit<ExerciseSummary, 'mark' | 'deadline' | 'opensAt' | 'stale'> {
  readonly deadline: Date;
  readonly opensAt: Date | null;
}

/** The exercises of a course that the caller may know of, with what was handed in: by all for staff, by the student alone. */
export function listedExercises({ db, courseId, person, role, at }: Caller): Promise<Listed[]> {
  const staff = isStaff(role);
  return db.query(
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
    [courseId, staff ? null : person.id, role === 'instructor', staff, at],
  );
}

/** Exercises of a course whose keys were computed from reference runs that are others now. */
export async function staleExercises({
  db,
  courseId,
}: Pick<Caller, 'db' | 'courseId'>): Promise<Set<string>> {
  const stale: { id: string }[] = await db.query(
    `SELECT e.id FROM exercise e
       JOIN vault.answer_key k ON k.exercise_id = e.id AND k.revision = e.revision
      WHERE e.course_id = $1 AND ${IS_STALE}`,
    [courseId],
  );
  return new Set(stale.map(({ id }) => id));
}

/** What staff wrote about all that a student handed in, once the exercise is returned; null for nothing. */
export async function ownRemark(
  { db, person }: Caller,
  { id, state }: ExerciseRecord,
): Promise<string | null> {
  if (state !== 'returned') return null;
  const [remark]: { text: string }[] = await db.query(
    "SELECT text FROM remark WHERE exercise_id = $1 AND person_id = $2 AND text <> ''",
    [id, person.id],
  );
  return remark?.text ?? null;
}
