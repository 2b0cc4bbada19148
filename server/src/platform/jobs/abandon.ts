import type { EntityManager } from 'typeorm';
import { announce } from '../events/announce.js';
import type { JobKind, JobPayloads } from './queues.js';

type Abandon<P> = (
  manager: EntityManager,
  payload: P,
  words: { code: string; message: string; choices?: readonly string[] },
) => Promise<void>;

/** The student reads why there is no receipt. */
const withoutReceipt: Abandon<JobPayloads['check']> = async (
  manager,
  { courseId, submissionId },
  { message },
) => {
  const told: { personId: string }[] = await manager.query(
    `WITH told AS (
         INSERT INTO receipt (submission_id, stage, outcome, disclosed, problem)
         SELECT $1::uuid, 'open', 'failed', NULL, $2::text
          WHERE NOT EXISTS (SELECT 1 FROM receipt WHERE submission_id = $1::uuid)
         ON CONFLICT DO NOTHING RETURNING submission_id)
       SELECT s.person_id AS "personId" FROM told JOIN submission s ON s.id = told.submission_id`,
    [submissionId, message],
  );
  for (const { personId } of told) await announce(manager, { courseId, to: personId });
};

/**
 * Tells clients that wait for a job that it will not be done: after its last failure, when it was cancelled, or when what
 * it was given cannot be done. Changes nothing that is settled already.
 */
export const ABANDON: { readonly [K in JobKind]: Abandon<JobPayloads[K]> } = {
  check: withoutReceipt,
  model: withoutReceipt,
  /** The student asks again with the next look. */
  sheets: () => Promise.resolve(),
  pack: async (manager, { courseId, exerciseId }, problem) => {
    await manager.query(
      `UPDATE exercise SET state = 'draft', problem = $2 WHERE id = $1 AND state = 'packing'`,
      [exerciseId, problem],
    );
    await announce(manager, { courseId, to: 'staff' });
  },
  remark: async (manager, { courseId, correctionId }, problem) => {
    await manager.query(
      `UPDATE vault.correction SET state = 'failed', problem = $2 WHERE id = $1 AND state = 'waiting'`,
      [correctionId, problem],
    );
    await announce(manager, { courseId, to: 'staff' });
  },
  prepare: async (manager, { courseId, preparationId }, problem) => {
    await manager.query(
      `UPDATE preparation SET state = 'failed', problem = $2 WHERE id = $1 AND state = 'waiting'`,
      [preparationId, problem],
    );
    await announce(manager, { courseId, to: 'staff' });
  },
  trial: async (manager, { courseId, trialId }, problem) => {
    await manager.query(
      `UPDATE vault.trial SET state = 'failed', problem = $2 WHERE id = $1 AND state = 'waiting'`,
      [trialId, problem],
    );
    await announce(manager, { courseId, to: 'staff' });
  },
  import: async (manager, { courseId, importId }, problem) => {
    await manager.query(
      `UPDATE import SET state = 'failed', problem = $2 WHERE id = $1 AND state = 'waiting'`,
      [importId, problem],
    );
    await announce(manager, { courseId, to: 'staff' });
  },
};
