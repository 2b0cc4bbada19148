import { deleteIdle } from '../platform/files/idle.js';
import type { Upkeep } from '../platform/jobs/upkeep.js';

/** Days for which a file that failed its checks is kept; its checks and its checksum stay. */
const FAILED_DAYS = 1;

/** Deletes files that failed their checks a day ago, and what deleted courses and people leave. */
export const deleteIdleAnswers: Upkeep = (db) =>
  deleteIdle(db, [
    `DELETE FROM file f WHERE NOT EXISTS (
       SELECT 1 FROM submission s WHERE s.file_sha256 = f.sha256 AND NOT (
         s.received_at < now() - interval '${FAILED_DAYS} days'
         AND EXISTS (SELECT 1 FROM receipt r WHERE r.submission_id = s.id AND r.outcome = 'refused')))`,
  ]);
