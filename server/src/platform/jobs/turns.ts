import type { EntityManager } from 'typeorm';
import type { JobKind, JobPayload } from './job-kind.js';

/** A job that was taken up. */
export interface TakenJob<P extends JobPayload> {
  readonly id: string;
  readonly data: P;
  readonly retryCount: number;
  readonly retryLimit: number;
}

/** Stands for jobs that are nobody's in particular. */
const NOBODY = '00000000-0000-0000-0000-000000000000';
/** Jobs that are looked at together, so that workers that take one at the same moment do not wait for one another. */
const LOOKED_AT = 20;

/**
 * Takes up the next job of a kind, in turn: the course comes first that was served the longest ago, within it the
 * person, and of them the oldest job. A person and a course have no more jobs running than the kind allows, on all
 * workers together. Written as pg-boss takes a job, with its own order.
 *
 * @returns null where none may be taken up
 */
export async function takeNextJob<P extends JobPayload>(
  db: EntityManager,
  { name, runningOfPerson, runningOfCourse }: JobKind<P>,
): Promise<TakenJob<P> | null> {
  const [taken]: TakenJob<P>[] = await db.query(
    `WITH running AS (
       SELECT data ->> 'courseId' AS course, coalesce(data ->> 'personId', '${NOBODY}') AS person, count(*) AS n
         FROM pgboss.job WHERE name = $1 AND state = 'active' GROUP BY 1, 2
     ), waiting AS (
       SELECT id, created_on, data ->> 'courseId' AS course, coalesce(data ->> 'personId', '${NOBODY}') AS person
         FROM pgboss.job WHERE name = $1 AND state < 'active' AND start_after < now()
     ), ranked AS (
       SELECT w.id, row_number() OVER (ORDER BY c.served_at NULLS FIRST, p.served_at NULLS FIRST, w.created_on, w.id) AS turn
         FROM waiting w
         LEFT JOIN job_turn c ON c.lane = $1 AND c.course_id::text = w.course AND c.person_id = '${NOBODY}'
         LEFT JOIN job_turn p ON p.lane = $1 AND p.course_id::text = w.course AND p.person_id::text = w.person
        WHERE coalesce((SELECT sum(n) FROM running r WHERE r.course = w.course AND r.person = w.person), 0) < $2
          AND coalesce((SELECT sum(n) FROM running r WHERE r.course = w.course), 0) < $3
        ORDER BY turn LIMIT ${LOOKED_AT}
     ), next AS (
       SELECT j.id FROM pgboss.job j JOIN ranked r ON r.id = j.id
        WHERE j.name = $1 AND j.state < 'active' ORDER BY r.turn LIMIT 1 FOR UPDATE OF j SKIP LOCKED
     ), taken AS (
       UPDATE pgboss.job j SET
         state = 'active', started_on = now(),
         retry_count = CASE WHEN j.started_on IS NOT NULL THEN j.retry_count + 1 ELSE j.retry_count END
         FROM next WHERE j.name = $1 AND j.id = next.id
       RETURNING j.id, j.data, j.retry_count, j.retry_limit
     ), served AS (
       INSERT INTO job_turn (lane, course_id, person_id, served_at)
         SELECT DISTINCT $1, (data ->> 'courseId')::uuid, person::uuid, statement_timestamp()
           FROM taken, unnest(ARRAY['${NOBODY}', coalesce(data ->> 'personId', '${NOBODY}')]) AS person
       ON CONFLICT (lane, course_id, person_id) DO UPDATE SET served_at = excluded.served_at
     )
     SELECT id, data, retry_count AS "retryCount", retry_limit AS "retryLimit" FROM taken`,
    [name, runningOfPerson, runningOfCourse],
  );
  return taken ?? null;
}

/** Forgets turns that are long over. */
export const forgetTurns = (db: EntityManager): Promise<unknown> =>
  db.query(`DELETE FROM job_turn WHERE served_at < now() - interval '1 hour'`);
