import type { Secret } from '@modest-sieve/core/foundation';
import {
  fileSizeOf,
  largestFile,
  NOBODY,
  questionKindOf,
  type ReleasedQuestion,
  type Rules,
} from '@modest-sieve/core/assessment';
import type { EntityManager } from 'typeorm';
import type { FileAbout, FileRules, QuestionSheet } from '../api/api.js';
import type { ExerciseRecord } from './exercise.entity.js';

export interface Used {
  readonly all: number;
  readonly today: number;
}
const NONE: Used = { all: 0, today: 0 };

export const isPersonal = ({ kind, rules }: Pick<ReleasedQuestion, 'kind' | 'rules'>): boolean =>
  questionKindOf(kind).isPersonal(rules);

/** A released question as one student sees it: theirs alone where it is personal. */
export function personalSheet(question: ReleasedQuestion, secret: Secret, personId: string): QuestionSheet {
  const { rules, example } = question;
  const who = { secret, question: question.id, id: personId };
  const sheet = questionKindOf(question.kind).sheet(question, rules, who);
  return {
    ...sheet,
    markedBy: questionKindOf(question.kind).markedBy,
    fileAbout: takesFile(sheet) ? aboutFile(rules) : null,
    example,
    used: NONE.all,
    usedToday: NONE.today,
    keyShown: false,
  };
}

/**
 * The rules by which a file is checked before it is sent; null where nothing is handed in as a file. What is generated for
 * a student follows from rules and secret: rules are for files alone, whose checks need neither.
 */
export function fileRules(question: ReleasedQuestion): FileRules | null {
  const sheet = questionKindOf(question.kind).sheet(question, question.rules, NOBODY);
  return takesFile(sheet) ? { question: question.id, rules: question.rules } : null;
}

const takesFile = ({ file }: Pick<QuestionSheet, 'file'>): boolean => file !== null && !file.optional;

const aboutFile = (rules: Rules): FileAbout => ({
  rows: 'identifiers' in rules ? rules.identifiers.length : null,
  bytes: largestFile(fileSizeOf(rules)),
  takes: 'takes' in rules ? rules.takes : null,
  metric: 'scheme' in rules ? rules.metric : null,
  scheme: 'scheme' in rules ? rules.scheme : null,
});

/** A released question that is the same for all students. */
export const commonSheet = (question: ReleasedQuestion): QuestionSheet =>
  personalSheet(question, NOBODY.secret, NOBODY.id);

/** A sheet with the attempts that its student has used, and whether its right answers were shown. */
export const withUsed = (
  sheet: QuestionSheet,
  { all, today }: Used = NONE,
  keyShown = false,
): QuestionSheet => ({
  ...sheet,
  // Sheets were kept before this was on them.
  markedBy: questionKindOf(sheet.kind).markedBy,
  used: all,
  usedToday: today,
  keyShown,
});

/**
 * The questions of an exercise whose right answers a student may have seen at a return: those with a typed or chosen
 * answer that the student handed in before, or, where all students get the same figures or statements, that anyone did.
 * A receipt of what was refused shows none.
 */
export async function questionsShown(
  db: EntityManager,
  { id: exerciseId, returnedAt }: Pick<ExerciseRecord, 'id' | 'returnedAt'>,
  personId: string,
  questions: readonly ReleasedQuestion[],
): Promise<Set<string>> {
  if (returnedAt === null) return new Set();
  const returned: { question: string; own: boolean }[] = await db.query(
    `SELECT s.question, bool_or(s.person_id = $2) AS own FROM submission s
       JOIN receipt r ON r.submission_id = s.id AND r.stage = 'returned' AND r.outcome = 'checked'
      WHERE s.exercise_id = $1 GROUP BY s.question`,
    [exerciseId, personId],
  );
  const own = new Map(returned.map((one) => [one.question, one.own]));
  return new Set(
    questions
      .filter(({ id, kind, rules }) => {
        const { markedBy, isShared } = questionKindOf(kind);
        const isSameForAll = isShared || !isPersonal({ kind, rules });
        return markedBy === 'key' && (own.get(id) === true || (isSameForAll && own.has(id)));
      })
      .map(({ id }) => id),
  );
}

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
