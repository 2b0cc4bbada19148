import { countingAnswer } from '@modest-sieve/core/assessment';
import type { Caller } from '../platform/access/access.js';
import { ExerciseRecord } from './exercise.entity.js';

/** The receipt `r` that holds of a submission `s`: the last one of the last stage. */
export const LATEST_RECEIPT = `LEFT JOIN LATERAL (
  SELECT * FROM receipt WHERE submission_id = s.id ORDER BY stage = 'returned' DESC, issue DESC LIMIT 1) r ON true`;

/** A checked answer to a question, and its marks after lateness. */
interface Counted {
  readonly question: string;
  readonly number: number;
  readonly checked: boolean;
  readonly marks: number | null;
  /** What decides which submission counts. */
  readonly standing: number | null;
}

/** The marks of a student: of each question those of the answer that counts. Null where nothing counts. */
export function totalMarks(answers: readonly Counted[], counts: 'best' | 'last'): number | null {
  const questions = [...new Set(answers.map(({ question }) => question))];
  const counting = questions.flatMap((question) => {
    const one = countingAnswer(
      answers.filter((answer) => answer.question === question),
      counts,
    );
    return one ? [one.marks ?? 0] : [];
  });
  return counting.length === 0 ? null : Math.round(counting.reduce((a, b) => a + b, 0) * 100 + 1e-9) / 100;
}

/** A student's marks by exercise, for those that are returned. */
export async function ownMarks({ db, courseId, person }: Caller): Promise<Map<string, number>> {
  const exercises = await db.findBy(ExerciseRecord, { courseId, state: 'returned' });
  const marks = new Map<string, number>();
  for (const exercise of exercises) {
    const counted: Counted[] = await db.query(
      `SELECT s.question, s.number, r.outcome = 'checked' AS checked, (r.disclosed ->> 'marks')::float AS marks,
              coalesce(r.disclosed ->> 'standing', r.disclosed ->> 'marks')::float AS standing
         FROM submission s ${LATEST_RECEIPT} WHERE s.exercise_id = $1 AND s.person_id = $2`,
      [exercise.id, person.id],
    );
    const total = totalMarks(counted, exercise.counts);
    if (total !== null) marks.set(exercise.id, total);
  }
  return marks;
}
