import type { Result } from '@modest-sieve/core/assessment';
import type { OwnReceipt, ReceiptInfo } from '../api/api.js';
import { LATEST_RECEIPT } from '../exercises/own-marks.js';
import type { Caller } from '../platform/access/access.js';
import { LISTED } from './receipts.js';

/** A submission with its latest receipt, and its result where the connection may read it. */
export interface SubmissionRow {
  readonly id: string;
  readonly exerciseId: string;
  readonly personId: string;
  readonly question: string;
  readonly number: number;
  readonly fileName: string | null;
  readonly sha256: string | null;
  readonly fields: Readonly<Record<string, string>>;
  readonly receivedAt: Date;
  readonly outcome: ReceiptInfo['outcome'];
  readonly disclosed: ReceiptInfo['disclosed'];
  readonly problem: string | null;
}

/** Receipts that a page of a list has. */
export const PAGE = 50;

/** A line of a list: numbers alone, however long the texts of a receipt are. */
const LINE = `
  s.id, s.question, s.number, s.file_name AS "fileName", s.file_sha256 AS sha256, s.received_at AS "receivedAt",
  coalesce(r.outcome, 'waiting') AS outcome,
  CASE WHEN r.disclosed IS NULL THEN NULL ELSE jsonb_build_object(
    'of', jsonb_array_length(r.disclosed -> 'checks'),
    'hold', (SELECT count(*) FROM jsonb_array_elements(r.disclosed -> 'checks') c WHERE c ->> 'outcome' = 'holds')) END AS checks,
  (r.disclosed ->> 'marks')::float AS marks,
  (r.disclosed #>> '{scored,final,score}')::float AS final,
  CASE WHEN r.disclosed #> '{scored,feedback}' IN (NULL, 'null') THEN NULL ELSE jsonb_build_object(
    'score', r.disclosed #> '{scored,feedback,score}', 'rounded', r.disclosed #> '{scored,feedback,rounded}') END AS feedback,
  coalesce((r.disclosed #>> '{scored,notBetter}')::boolean, false) AS "notBetter"`;

/** Submissions as a list of a whole class has them: what their receipts say is read when one is opened. */
const WITHOUT_RECEIPT = `
  SELECT s.id, s.exercise_id AS "exerciseId", s.person_id AS "personId", s.question, s.number,
         s.file_name AS "fileName", s.file_sha256 AS sha256, s.fields, s.received_at AS "receivedAt",
         coalesce(r.outcome, 'waiting') AS outcome, NULL AS disclosed, r.problem
    FROM submission s
    ${LATEST_RECEIPT}`;

const WITH_RECEIPT = `
  SELECT s.id, s.exercise_id AS "exerciseId", s.person_id AS "personId", s.question, s.number,
         s.file_name AS "fileName", s.file_sha256 AS sha256, s.fields, s.received_at AS "receivedAt",
         coalesce(r.outcome, 'waiting') AS outcome, r.disclosed, r.problem
    FROM submission s
    ${LATEST_RECEIPT}`;

/** Lines of a student's list of receipts, the latest first: one more than a page has, where there are more. */
export const receiptLines = (
  caller: Caller,
  exerciseId: string,
  before: string | null,
): Promise<(Omit<OwnReceipt, 'receivedAt'> & { receivedAt: Date })[]> =>
  caller.db.query(
    `SELECT ${LINE} FROM submission s ${LATEST_RECEIPT}
      WHERE s.exercise_id = $1 AND s.person_id = $2 AND ($3::uuid IS NULL OR (s.received_at, s.number, s.id) <
        (SELECT received_at, number, id FROM submission WHERE id = $3 AND person_id = $2))
      ORDER BY s.received_at DESC, s.number DESC, s.id DESC LIMIT ${PAGE + 1}`,
    [exerciseId, caller.person.id, before],
  );

/** A submission of the student who asks. */
export async function submissionOf(
  caller: Caller,
  exerciseId: string,
  id: string,
): Promise<SubmissionRow | undefined> {
  const [row]: SubmissionRow[] = await caller.db.query(
    `${WITH_RECEIPT} WHERE s.exercise_id = $1 AND s.person_id = $2 AND s.id = $3`,
    [exerciseId, caller.person.id, id],
  );
  return row;
}

/** All submissions of an exercise with their results by a revision, as a list has them; or one of them, whole. */
export const submissionsFor = (
  caller: Caller,
  exerciseId: string,
  { id, revision }: { readonly id: string | null; readonly revision: number },
): Promise<(SubmissionRow & { name: string; result: Result | null })[]> =>
  caller.db.query(
    `SELECT b.*, p.name, v.result FROM (${id === null ? WITHOUT_RECEIPT : WITH_RECEIPT} WHERE s.exercise_id = $1 AND ($2::uuid IS NULL OR s.id = $2)) b
       JOIN identity.person p ON p.id = b."personId"
       LEFT JOIN LATERAL (SELECT ${id === null ? LISTED : 'result'} FROM vault.result WHERE submission_id = b.id AND revision = $3 ORDER BY created_at DESC LIMIT 1) v ON true
      ORDER BY p.name, b."personId", b."receivedAt", b.number`,
    [exerciseId, id, revision],
  );

/** A check that an answer fails. */
export interface FailedCheck {
  readonly submissionId: string;
  readonly id: string;
  readonly message: string;
}

/** The checks that answers to an exercise fail, by results of a revision: those of the file first. */
export const failedChecks = (
  caller: Caller,
  exerciseId: string,
  revision: number,
): Promise<readonly FailedCheck[]> =>
  caller.db.query(
    `SELECT s.id AS "submissionId", failed.own ->> 'id' AS id, failed.own ->> 'message' AS message
       FROM submission s
       CROSS JOIN LATERAL (SELECT result FROM vault.result WHERE submission_id = s.id AND revision = $2 ORDER BY created_at DESC LIMIT 1) v
       CROSS JOIN LATERAL jsonb_array_elements(
         jsonb_path_query_array(v.result, '$.checks[*] ? (@.outcome == "fails")')
         || jsonb_path_query_array(v.result, '$.judged[*].check ? (@.outcome == "fails")')) WITH ORDINALITY failed(own, place)
      WHERE s.exercise_id = $1
      ORDER BY s.id, failed.place`,
    [exerciseId, revision],
  );

export function receiptOf(row: SubmissionRow): ReceiptInfo {
  return {
    id: row.id,
    question: row.question,
    fields: row.fields,
    number: row.number,
    fileName: row.fileName,
    sha256: row.sha256,
    receivedAt: row.receivedAt.toISOString(),
    outcome: row.outcome,
    disclosed: row.disclosed,
    problem: row.problem,
  };
}
