import { countingAnswer, slipOf } from '@modest-sieve/core/assessment';
import type { ClassAnswer, ClassSlip, ClassView, SubmissionInfo } from '../api/api.js';
import { Membership } from '../courses/course.entity.js';
import { PackRecord, type ExerciseRecord } from '../exercises/exercise.entity.js';
import { extensionsOf } from '../exercises/policy.js';
import type { Caller } from '../platform/access/access.js';
import { totalMarks } from '../exercises/own-marks.js';

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

/** Every student of the course with what they handed in, students without a submission included. */
export async function classView(
  caller: Caller,
  exercise: ExerciseRecord,
  submissions: readonly SubmissionInfo[],
): Promise<ClassView> {
  const students: { id: string; name: string }[] = await caller.db.query(
    `SELECT p.id, p.name FROM membership m JOIN identity.person p ON p.id = m.person_id
      WHERE m.course_id = $1 AND m.role = $2 ORDER BY p.name, p.id`,
    [caller.courseId, 'student' satisfies Membership['role']],
  );
  const pack = await caller.db.findOneBy(PackRecord, { exerciseId: exercise.id });
  const questions = (pack?.questions ?? []).map(({ id }) => id);
  const deadlines = await extensionsOf(caller.db, exercise.id);
  const byPerson = grouped(submissions);
  return {
    slips: slipsOf(submissions, students),
    lines: students.map((person) => {
      const own = byPerson.get(person.id) ?? [];
      return {
        person,
        answers: questions.map((question) => answerTo(question, own, exercise.counts)),
        marks: marksIn(own, exercise.counts),
        deadline: deadlines.get(person.id)?.toISOString() ?? null,
      };
    }),
    submissions: submissions.map((s) => ({
      id: s.id,
      personId: s.person.id,
      question: s.question,
      number: s.number,
      receivedAt: s.receivedAt,
      outcome: s.outcome,
    })),
  };
}

/** Mistakes that were found in the answers of students, the commonest first. */
function slipsOf(
  submissions: readonly SubmissionInfo[],
  students: readonly { readonly id: string; readonly name: string }[],
): ClassSlip[] {
  const found = new Map<
    string,
    Omit<ClassSlip, 'title' | 'students'> & { readonly by: Map<string, string> }
  >();
  for (const { id: submission, person, question, result } of submissions)
    for (const { id } of result?.slips ?? []) {
      const own = found.get(`${question} ${id}`) ?? { question, id, by: new Map<string, string>() };
      found.set(`${question} ${id}`, own);
      own.by.set(person.id, submission);
    }
  return [...found.values()]
    .map(({ question, id, by }) => ({
      ...{ question, id, title: slipOf(id).title },
      students: students.flatMap((student) => {
        const submission = by.get(student.id);
        return submission === undefined ? [] : [{ ...student, submission }];
      }),
    }))
    .filter((slip) => slip.students.length > 0)
    .sort((a, b) => b.students.length - a.students.length || (a.title < b.title ? -1 : 1));
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
export function grouped(submissions: readonly SubmissionInfo[]): Map<string, SubmissionInfo[]> {
  const byPerson = new Map<string, SubmissionInfo[]>();
  for (const s of submissions) byPerson.set(s.person.id, [...(byPerson.get(s.person.id) ?? []), s]);
  return byPerson;
}
