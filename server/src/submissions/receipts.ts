import { isDeepStrictEqual } from 'node:util';
import { withVerdicts, type Disclosed, type Result } from '@modest-sieve/core/assessment';
import type { EntityManager } from 'typeorm';
import type { ExerciseRecord } from '../exercises/exercise.entity.js';
import { extensionsOf } from '../exercises/policy.js';
import { adjustmentsOf } from './adjustments.js';
import { commentsOn, showRemarks } from './comments.js';
import { disclosedOf, IN_TURN, shownAfter, type Shown } from './disclosing.js';
import { ReceiptRecord } from './submission.entity.js';
import { verdictsOn } from './verdicts.js';

/** A result without its residuals, of which there may be thousands and which only an opened submission shows. */
const FIGURES = `result #- '{scored,final,residuals}' #- '{scored,feedback,residuals}' AS result`;

/** A result as a list has it: without what an opened submission alone shows. */
export const LISTED = `(result #- '{scored,final,residuals}' #- '{scored,feedback,residuals}') || '{"checks": [], "judged": []}' AS result`;

/** Rows that one statement writes. */
const AT_ONCE = 500;

/** An answer that was marked, with its last receipt of the stage that the exercise is in. */
interface Marked {
  readonly id: string;
  readonly personId: string;
  readonly question: string;
  readonly receivedAt: Date;
  readonly result: Result;
  readonly issue: number | null;
  readonly disclosed: Disclosed | null;
}

/**
 * Writes a receipt for every answer whose latest receipt is not what the exercise as it is now gives: all of them
 * at the return, those that differ after a correction, an extension or what staff said of it. Earlier receipts stay as they
 * were. Of a returned exercise students also read what was written about all that they handed in.
 */
export async function issueReceipts(
  manager: EntityManager,
  exercise: ExerciseRecord,
  { personId = null }: { personId?: string | null } = {},
): Promise<void> {
  const { id: exerciseId, revision } = exercise;
  const stage = exercise.state === 'returned' ? 'returned' : 'open';
  const marked: Marked[] = await manager.query(
    `SELECT s.id, s.person_id AS "personId", s.question, s.received_at AS "receivedAt", v.result, r.issue, r.disclosed
       FROM submission s
       JOIN LATERAL (SELECT ${FIGURES} FROM vault.result WHERE submission_id = s.id AND revision = $2
                      ORDER BY created_at DESC LIMIT 1) v ON true
       LEFT JOIN LATERAL (SELECT issue, disclosed FROM receipt WHERE submission_id = s.id AND stage = $3
                           ORDER BY issue DESC LIMIT 1) r ON true
      WHERE s.exercise_id = $1 AND ($4::uuid IS NULL OR s.person_id = $4)
      ORDER BY ${IN_TURN}`,
    [exerciseId, revision, stage, personId],
  );
  const own = await extensionsOf(manager, exerciseId);
  const adjustments = await adjustmentsOf(manager, exerciseId);
  const comments = await commentsOn(manager, exerciseId);
  const verdicts = await verdictsOn(manager, exerciseId);
  if (stage === 'returned') await showRemarks(manager, exerciseId);
  const shown = new Map<string, Shown | null>();
  const issued: Partial<ReceiptRecord>[] = [];
  for (const { id, personId: person, question, receivedAt, result, issue, disclosed: last } of marked) {
    const turn = `${person} ${question}`;
    const before = shown.get(turn) ?? null;
    const disclosed = disclosedOf(exercise, withVerdicts(result, question, verdicts.get(id) ?? []), {
      stage,
      receivedAt,
      deadline: own.get(person),
      shown: before,
      adjustment: adjustments.get(id) ?? null,
      comment: comments.get(id)?.text ?? null,
    });
    shown.set(turn, shownAfter(id, disclosed, before));
    if (isDeepStrictEqual(asStored(disclosed), last)) continue;
    const outcome = result.holds ? 'checked' : 'refused';
    issued.push({ submissionId: id, stage, issue: (issue ?? 0) + 1, outcome, disclosed });
  }
  for (let from = 0; from < issued.length; from += AT_ONCE)
    await manager.insert(ReceiptRecord, issued.slice(from, from + AT_ONCE));
}

const asStored = (disclosed: Disclosed): unknown => JSON.parse(JSON.stringify(disclosed));
