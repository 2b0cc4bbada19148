import type { EntityManager } from 'typeorm';
import { FILES_LOCK } from './files.js';

/** Days for which a file that failed its checks is kept; its checks and its checksum stay. */
const FAILED_DAYS = 1;

/**
 * Deletes files that nobody needs: those that failed their checks a day ago, and what deleted courses and people leave.
 * Nothing is deleted while a file is being kept, which may be one of these.
 */
export async function deleteIdleFiles(db: EntityManager): Promise<void> {
  await db.transaction(async (manager) => {
    const [lock]: { free: boolean }[] = await manager.query(
      'SELECT pg_try_advisory_xact_lock(hashtextextended($1, 0)) AS free',
      [FILES_LOCK],
    );
    if (lock?.free !== true) return;
    await manager.query(
      `DELETE FROM file f WHERE NOT EXISTS (
         SELECT 1 FROM submission s WHERE s.file_sha256 = f.sha256 AND NOT (
           s.received_at < now() - interval '${FAILED_DAYS} days'
           AND EXISTS (SELECT 1 FROM receipt r WHERE r.submission_id = s.id AND r.outcome = 'refused')))`,
    );
    await manager.query(
      `DELETE FROM vault.file f
        WHERE NOT EXISTS (SELECT 1 FROM data_set_version v WHERE v.file_sha256 = f.sha256)
          AND NOT EXISTS (SELECT 1 FROM import i WHERE i.file_sha256 = f.sha256)`,
    );
    await manager.query(
      `DELETE FROM vault.chunk c WHERE NOT EXISTS (SELECT 1 FROM vault.version_chunk v WHERE v.hash = c.hash)`,
    );
  });
}
