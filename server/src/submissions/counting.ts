import { countingAnswer } from '@modest-sieve/core/assessment';

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
