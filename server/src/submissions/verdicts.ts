import type { EntityManager } from 'typeorm';
import type { SlipVerdictInfo } from '../api/api.js';
import type { SlipVerdictRecord } from './submission.entity.js';

/** What staff said of mistakes in answers to an exercise, by submission: the last word on each mistake and figure. */
export async function verdictsOn(
  db: EntityManager,
  exerciseId: string,
): Promise<Map<string, readonly SlipVerdictInfo[]>> {
  const rows: (Pick<SlipVerdictRecord, 'slip' | 'field' | 'verdict'> & {
    id: string;
    by: string;
    at: Date;
  })[] = await db.query(
    `SELECT DISTINCT ON (v.submission_id, v.slip, v.field)
              v.submission_id AS id, v.slip, v.field, v.verdict, p.name AS by, v.made_at AS at
         FROM vault.slip_verdict v JOIN submission s ON s.id = v.submission_id JOIN identity.person p ON p.id = v.made_by
        WHERE s.exercise_id = $1 ORDER BY v.submission_id, v.slip, v.field, v.number DESC`,
    [exerciseId],
  );
  const verdicts = new Map<string, SlipVerdictInfo[]>();
  for (const { id, slip, field, verdict, by, at } of rows) {
    if (verdict === 'undone') continue;
    const own = verdicts.get(id) ?? [];
    own.push({ slip, field, verdict, by, at: at.toISOString() });
    verdicts.set(id, own);
  }
  return verdicts;
}
