import type { EntityManager } from 'typeorm';
import type { AdjustmentInfo } from '../api/api.js';

/** The adjustments of an exercise that hold, by submission. */
export async function adjustmentsOf(
  db: EntityManager,
  exerciseId: string,
): Promise<Map<string, AdjustmentInfo>> {
  const rows: { id: string; marks: number | null; reason: string; by: string; at: Date }[] = await db.query(
    `SELECT DISTINCT ON (a.submission_id) a.submission_id AS id, a.marks, a.reason, p.name AS by, a.made_at AS at
       FROM vault.adjustment a JOIN submission s ON s.id = a.submission_id
       JOIN identity.person p ON p.id = a.made_by
      WHERE s.exercise_id = $1 ORDER BY a.submission_id, a.number DESC`,
    [exerciseId],
  );
  return new Map(
    rows.flatMap(({ id, marks, reason, by, at }) =>
      marks === null ? [] : [[id, { marks, reason, by, at: at.toISOString() }] as const],
    ),
  );
}
