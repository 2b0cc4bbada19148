import type { EntityManager } from 'typeorm';
import type { CommentInfo } from '../api/api.js';

/** What staff wrote about answers to an exercise, by submission: of each answer the last comment, where it is not empty. */
export async function commentsOn(db: EntityManager, exerciseId: string): Promise<Map<string, CommentInfo>> {
  const rows: { id: string; text: string; by: string; at: Date }[] = await db.query(
    `SELECT DISTINCT ON (c.submission_id) c.submission_id AS id, c.text, p.name AS by, c.made_at AS at
       FROM vault.comment c JOIN submission s ON s.id = c.submission_id JOIN identity.person p ON p.id = c.made_by
      WHERE s.exercise_id = $1 ORDER BY c.submission_id, c.number DESC`,
    [exerciseId],
  );
  return new Map(
    rows.flatMap(({ id, text, by, at }) =>
      text === '' ? [] : [[id, { text, by, at: at.toISOString() }] as const],
    ),
  );
}
