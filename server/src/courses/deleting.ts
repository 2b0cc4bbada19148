import type { EntityManager } from 'typeorm';

/**
 * Deletes what a person handed in, with results, receipts and deadlines of their own.
 *
 * @param courseId of one course; of all of them where it is null
 * @returns how many submissions were deleted
 */
export async function deleteWork(
  manager: EntityManager,
  personId: string,
  courseId: string | null,
): Promise<number> {
  const ofCourse = `exercise_id IN (SELECT id FROM exercise WHERE $2::uuid IS NULL OR course_id = $2)`;
  const [, submissions]: [unknown, number] = await manager.query(
    `DELETE FROM submission WHERE person_id = $1 AND ${ofCourse}`,
    [personId, courseId],
  );
  for (const table of ['extension', 'excused', 'remark'])
    await manager.query(`DELETE FROM ${table} WHERE person_id = $1 AND ${ofCourse}`, [personId, courseId]);
  return submissions;
}

/** Deletes a course with all that is in it: data sets, exercises, what was handed in, marks and its activity log. */
export async function deleteCourse(
  manager: EntityManager,
  courseId: string,
  by: { readonly name: string },
): Promise<void> {
  const [counts]: { name: string; people: number; exercises: number; submissions: number }[] =
    await manager.query(
      `SELECT c.name, (SELECT count(*)::int FROM membership WHERE course_id = c.id) AS people,
              (SELECT count(*)::int FROM exercise WHERE course_id = c.id) AS exercises,
              (SELECT count(*)::int FROM submission s JOIN exercise e ON e.id = s.exercise_id WHERE e.course_id = c.id) AS submissions
         FROM course c WHERE c.id = $1`,
      [courseId],
    );
  if (!counts) return;
  await manager.query(
    'DELETE FROM submission WHERE exercise_id IN (SELECT id FROM exercise WHERE course_id = $1)',
    [courseId],
  );
  await manager.query('DELETE FROM course WHERE id = $1', [courseId]);
  await recordOnServer(
    manager,
    by.name,
    `deleted the course “${counts.name}” with ${counts.people} members, ${counts.exercises} exercises and ${counts.submissions} submissions`,
  );
}

/** Adds to the server's own log, which outlasts courses and people. */
export async function recordOnServer(manager: EntityManager, by: string, text: string): Promise<void> {
  await manager.query('INSERT INTO identity.server_event (by, text) VALUES ($1, $2)', [by, text]);
}
