import type { EntityManager } from 'typeorm';
import type { CommentInfo } from '../api/api.js';

interface Written {
  readonly id: string;
  readonly text: string;
  readonly by: string;
  readonly at: Date;
}

/** Those of which something is left, by what they are about. */
const byAbout = (rows: readonly Written[]): Map<string, CommentInfo> =>
  new Map(
    rows.flatMap(({ id, text, by, at }) =>
      text === '' ? [] : [[id, { text, by, at: at.toISOString() }] as const],
    ),
  );

/** What staff wrote about answers to an exercise, by submission: of each answer the last comment, where it is not empty. */
export async function commentsOn(db: EntityManager, exerciseId: string): Promise<Map<string, CommentInfo>> {
  const rows: Written[] = await db.query(
    `SELECT DISTINCT ON (c.submission_id) c.submission_id AS id, c.text, p.name AS by, c.made_at AS at
       FROM vault.comment c JOIN submission s ON s.id = c.submission_id JOIN identity.person p ON p.id = c.made_by
      WHERE s.exercise_id = $1 ORDER BY c.submission_id, c.number DESC`,
    [exerciseId],
  );
  return byAbout(rows);
}

/** What staff wrote about all that a student handed in for an exercise. */
export async function remarkOn(
  db: EntityManager,
  exerciseId: string,
  personId: string,
): Promise<CommentInfo | null> {
  const rows: Written[] = await db.query(
    `SELECT r.person_id AS id, r.text, p.name AS by, r.made_at AS at
       FROM vault.remark r JOIN identity.person p ON p.id = r.made_by
      WHERE r.exercise_id = $1 AND r.person_id = $2 ORDER BY r.number DESC LIMIT 1`,
    [exerciseId, personId],
  );
  return byAbout(rows).get(personId) ?? null;
}

/** Lets students read what was written about all that they handed in for an exercise that is returned. */
export const showRemarks = (db: EntityManager, exerciseId: string): Promise<unknown> =>
  db.query(
    `UPDATE remark SET text = last.text
       FROM (SELECT DISTINCT ON (person_id) person_id, text FROM vault.remark
              WHERE exercise_id = $1 ORDER BY person_id, number DESC) last
      WHERE remark.exercise_id = $1 AND remark.person_id = last.person_id`,
    [exerciseId],
  );
