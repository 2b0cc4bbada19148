import type { EntityManager } from 'typeorm';
import type { JobKind, JobPayload } from './job-kind.js';

/** States of a job that is not over. */
export const UNDER_WAY = `('created', 'retry', 'active')`;

/**
 * What waits for a job although there is none any more: a worker was killed on its last try and reported nothing.
 *
 * @param kinds those that one handler runs, which are about the same subjects
 */
export async function orphansOf<P extends JobPayload>(
  db: EntityManager,
  kinds: readonly JobKind<P>[],
): Promise<P[]> {
  const [kind] = kinds;
  if (!kind?.waitingSubjects) return [];
  return db.query(
    `SELECT w.* FROM (${kind.waitingSubjects}) w
      WHERE NOT EXISTS (SELECT 1 FROM pgboss.job j
                         WHERE j.name = ANY ($1) AND j.data ->> $2 = w.${JSON.stringify(kind.about)}::text AND j.state IN ${UNDER_WAY})`,
    [kinds.map(({ name }) => name), kind.about],
  );
}
