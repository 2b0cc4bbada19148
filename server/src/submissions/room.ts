import type { EntityManager } from 'typeorm';
import type { Caller } from '../platform/access/access.js';
import { Problem } from '../platform/errors/problem.js';

/** Files of one person, and of a course, that may wait to be checked at a moment. */
const MOST_WAITING = { person: 6, course: 5000 };
const MEGABYTE = 1024 * 1024;
/** Bytes of files that are kept for one person in a course, and for the course. */
const MOST_BYTES = { person: 256 * MEGABYTE, course: 64 * 1024 * MEGABYTE };

/**
 * Makes sure that there is room for one more submission of a student. Files that fail cost no attempt, so that their
 * number and size are bounded here.
 *
 * @throws Problem 429 `too-many-waiting`, 507 `no-room-for-files`
 */
export async function checkRoom(
  manager: EntityManager,
  { courseId, person }: Pick<Caller, 'courseId' | 'person'>,
  bytes: number,
): Promise<void> {
  const [waiting]: { own: number; all: number }[] = await manager.query(
    `SELECT count(*) FILTER (WHERE s.person_id = $2)::int AS own, count(*)::int AS "all"
       FROM submission s JOIN exercise e ON e.id = s.exercise_id
      WHERE e.course_id = $1 AND NOT EXISTS (SELECT 1 FROM receipt r WHERE r.submission_id = s.id)`,
    [courseId, person.id],
  );
  if (waiting && (waiting.own >= MOST_WAITING.person || waiting.all >= MOST_WAITING.course))
    throw new Problem(
      429,
      'too-many-waiting',
      waiting.own >= MOST_WAITING.person
        ? `${waiting.own} of your files wait to be checked. Hand in the next one when they are done.`
        : 'Too many files of this course wait to be checked. Hand yours in again in a minute.',
      {},
      10,
    );
  const [kept]: { own: number; all: number }[] = await manager.query(
    `SELECT coalesce(sum(size) FILTER (WHERE own), 0)::float AS own, coalesce(sum(size), 0)::float AS "all"
       FROM (SELECT f.sha256, f.size, bool_or(s.person_id = $2) AS own
               FROM submission s JOIN exercise e ON e.id = s.exercise_id JOIN file f ON f.sha256 = s.file_sha256
              WHERE e.course_id = $1 GROUP BY f.sha256, f.size) one`,
    [courseId, person.id],
  );
  if (!kept || bytes === 0) return;
  if (kept.own + bytes > MOST_BYTES.person || kept.all + bytes > MOST_BYTES.course)
    throw new Problem(
      507,
      'no-room-for-files',
      kept.own + bytes > MOST_BYTES.person
        ? `The files that you have handed in take ${Math.round(kept.own / MEGABYTE)} MB, and ${MOST_BYTES.person / MEGABYTE} MB are kept of one person. Files that failed their checks make room after a day.`
        : 'This course has no room for more files. Ask your instructor.',
    );
}
