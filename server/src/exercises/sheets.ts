import { NOBODY, questionKindOf, type ReleasedQuestion, type Secret } from '@modest-sieve/core';
import type { EntityManager } from 'typeorm';
import type { QuestionSheet } from '../api/api.js';

export interface Used {
  readonly all: number;
  readonly today: number;
}
const NONE: Used = { all: 0, today: 0 };

/** A released question as one student sees it: theirs alone where it is personal. */
export function personalSheet(question: ReleasedQuestion, secret: Secret, personId: string): QuestionSheet {
  const { rules, example } = question;
  const who = { secret, question: question.id, id: personId };
  const sheet = questionKindOf(question.kind).sheet(question, rules, who);
  // What is generated for a student follows from rules and secret: rules are for files alone, whose checks need neither.
  const isFile = sheet.file !== null && !sheet.file.optional;
  return { ...sheet, rules: isFile ? rules : null, example, used: NONE.all, usedToday: NONE.today };
}

/** A released question that is the same for all students. */
export const commonSheet = (question: ReleasedQuestion): QuestionSheet =>
  personalSheet(question, NOBODY.secret, NOBODY.id);

/** A sheet with the attempts that its student has used. */
export const withUsed = (sheet: QuestionSheet, { all, today }: Used = NONE): QuestionSheet => ({
  ...sheet,
  used: all,
  usedToday: today,
});

/**
 * Attempts at each question: what was checked or still waits. An answer that failed its file checks, or whose check
 * failed, costs none.
 */
export async function usedAttempts(
  db: EntityManager,
  exerciseId: string,
  personId: string,
  at: Date,
): Promise<Map<string, Used>> {
  const rows: { question: string; all: number; today: number }[] = await db.query(
    `SELECT s.question, count(*)::int AS all,
            count(*) FILTER (WHERE (s.received_at AT TIME ZONE c.time_zone)::date
                                 = ($3::timestamptz AT TIME ZONE c.time_zone)::date)::int AS today
       FROM submission s JOIN exercise e ON e.id = s.exercise_id JOIN course c ON c.id = e.course_id
      WHERE s.exercise_id = $1 AND s.person_id = $2 AND NOT EXISTS (
        SELECT 1 FROM receipt r WHERE r.submission_id = s.id AND r.outcome <> 'checked')
      GROUP BY s.question`,
    [exerciseId, personId, at],
  );
  return new Map(rows.map(({ question, all, today }) => [question, { all, today }]));
}
