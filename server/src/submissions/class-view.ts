import {
  countingAnswer,
  isVerdictOn,
  itemAnalysis,
  slipOf,
  withVerdicts,
  type ReleasedQuestion,
} from '@modest-sieve/core/assessment';
import { groupedBy } from '@modest-sieve/core/foundation';
import type {
  ClassAnswer,
  ClassLine,
  ClassQuestion,
  ClassSlip,
  ClassView,
  FoundIn,
  SubmissionInfo,
} from '../api/api.js';
import { Membership } from '../courses/course.entity.js';
import { PackRecord, type ExerciseRecord } from '../exercises/exercise.entity.js';
import { extensionsOf } from '../exercises/policy.js';
import type { Caller } from '../platform/access/access.js';
import { totalMarks } from '../exercises/own-marks.js';
import { failedChecks, type FailedCheck } from './submissions.sql.js';

const countable = (submission: SubmissionInfo) => ({
  ...submission,
  checked: submission.outcome === 'checked',
});

/** The marks of one student's submissions. */
export const marksIn = (
  submissions: readonly SubmissionInfo[],
  counts: ExerciseRecord['counts'],
): number | null => totalMarks(submissions.map(countable), counts);

/** The marks of the answers that count of one student's submissions, by question. */
export const marksByQuestion = (
  submissions: readonly SubmissionInfo[],
  counts: ExerciseRecord['counts'],
): Map<string, number | null> =>
  new Map(
    [...new Set(submissions.map(({ question }) => question))].map((question) => [
      question,
      countingAnswer(submissions.filter((s) => s.question === question).map(countable), counts)?.marks ??
        null,
    ]),
  );

/** The answers of students to a question that count. */
export const countingOf = (
  submissions: readonly SubmissionInfo[],
  question: string,
  counts: ExerciseRecord['counts'],
): SubmissionInfo[] =>
  [...grouped(submissions.filter((one) => one.question === question)).values()].flatMap((own) => {
    const counting = countingAnswer(own.map(countable), counts);
    return counting ? [counting] : [];
  });

/** Every student of the course with what they handed in, students without a submission included. */
export async function classView(
  caller: Caller,
  exercise: ExerciseRecord,
  submissions: readonly SubmissionInfo[],
): Promise<ClassView> {
  const students: { id: string; name: string; section: string | null }[] = await caller.db.query(
    `SELECT p.id, p.name, m.section FROM membership m JOIN identity.person p ON p.id = m.person_id
      WHERE m.course_id = $1 AND m.role = $2 ORDER BY p.name, p.id`,
    [caller.courseId, 'student' satisfies Membership['role']],
  );
  const pack = await caller.db.findOneBy(PackRecord, { exerciseId: exercise.id });
  const questions = pack?.questions ?? [];
  const deadlines = await extensionsOf(caller.db, exercise.id);
  const byPerson = grouped(submissions);
  const lines = students.map(({ section, ...person }) => {
    const own = byPerson.get(person.id) ?? [];
    return {
      person,
      section,
      answers: questions.map(({ id }) => answerTo(id, own, exercise.counts)),
      marks: marksIn(own, exercise.counts),
      deadline: deadlines.get(person.id)?.toISOString() ?? null,
    };
  });
  const ids = new Set(students.map(({ id }) => id));
  const failed = new Map<string, FailedCheck[]>();
  for (const check of await failedChecks(caller, exercise.id, exercise.revision))
    failed.set(check.submissionId, [...(failed.get(check.submissionId) ?? []), check]);
  return {
    questions: questionsOf(questions, lines, submissions, failed, ids),
    slips: slipsOf(submissions, ids),
    lines,
    submissions: submissions.map((s) => ({
      id: s.id,
      personId: s.person.id,
      question: s.question,
      number: s.number,
      receivedAt: s.receivedAt,
      late: s.latePercent > 0,
      outcome: s.outcome,
    })),
  };
}

/** What was found in answers of students, by a key, what is in those of most students first. */
function foundIn<T extends object>(
  submissions: readonly SubmissionInfo[],
  students: ReadonlySet<string>,
  find: (submission: SubmissionInfo) => readonly (T & { readonly key: string })[],
): (Omit<T, 'key'> & FoundIn)[] {
  const found = new Map<string, { readonly what: Omit<T, 'key'>; readonly by: Map<string, string> }>();
  for (const submission of submissions) {
    if (!students.has(submission.person.id)) continue;
    for (const { key, ...what } of find(submission)) {
      const own = found.get(key) ?? { what, by: new Map<string, string>() };
      found.set(key, own);
      own.by.set(submission.person.id, submission.id);
    }
  }
  return [...found.values()]
    .map(({ what, by }) => ({ ...what, answers: [...by.values()] }))
    .sort((a, b) => b.answers.length - a.answers.length);
}

function slipsOf(submissions: readonly SubmissionInfo[], students: ReadonlySet<string>): ClassSlip[] {
  const named = new Set(
    submissions.flatMap(({ question, verdicts }) =>
      verdicts.flatMap(({ slip, verdict }) => (verdict === 'named' ? [`${question} ${slip}`] : [])),
    ),
  );
  return foundIn(submissions, students, ({ question, result, verdicts }) =>
    ((result && withVerdicts(result, question, verdicts).slips) ?? []).map(({ id, evidence }) => ({
      key: `${question} ${id}`,
      question,
      id,
      title: slipOf(id).title,
      evidence,
      byHand: named.has(`${question} ${id}`),
    })),
  );
}

/** How many mistakes were found in answers, and how many of them were dismissed. */
function slipsFound(answers: readonly SubmissionInfo[]): ClassQuestion['found'] {
  const found = answers.flatMap(({ result, verdicts }) =>
    (result?.slips ?? []).map((slip) => verdicts.find(isVerdictOn(slip))?.verdict),
  );
  return { slips: found.length, dismissed: found.filter((verdict) => verdict === 'dismissed').length };
}

/** Checks of a question that the class reads of. */
const MOST_CHECKS = 8;

/** How the class did on each question. */
function questionsOf(
  questions: readonly ReleasedQuestion[],
  lines: readonly ClassLine[],
  submissions: readonly SubmissionInfo[],
  failed: ReadonlyMap<string, readonly FailedCheck[]>,
  students: ReadonlySet<string>,
): ClassQuestion[] {
  const figures = itemAnalysis(
    lines.map(({ answers }) => answers.map(({ marks }) => marks)),
    questions.map(({ marks }) => marks),
  );
  return figures.map((figure, i) => {
    const question = questions[i]?.id ?? '';
    const answers = submissions.filter((submission) => submission.question === question);
    return {
      question,
      ...figure,
      failing: foundIn(answers, students, ({ id: answer }) =>
        (failed.get(answer) ?? []).map(({ id, message }) => ({ key: id, id, message })),
      ).slice(0, MOST_CHECKS),
      found: slipsFound(answers),
    };
  });
}

/** What a student's answers to one question come to. */
function answerTo(
  question: string,
  submissions: readonly SubmissionInfo[],
  counts: ExerciseRecord['counts'],
): ClassAnswer {
  const own = submissions.filter((s) => s.question === question);
  const counting = countingAnswer(own.map(countable), counts);
  return {
    question,
    submissions: own.length,
    waiting: own.filter((s) => s.outcome === 'waiting').length,
    counting: counting?.id ?? null,
    score: counting?.result?.scored?.final.score.value ?? null,
    line: counting?.result?.scored?.line ?? null,
    marks: counting?.marks ?? null,
    lastAt: own.at(-1)?.receivedAt ?? null,
  };
}

/** Submissions by whose they are. */
export const grouped = (submissions: readonly SubmissionInfo[]): Map<string, SubmissionInfo[]> =>
  groupedBy(submissions, ({ person }) => person.id);
