import { isCoded, type Table } from '../../data/table/table.js';
import type { Secret } from '../../foundation/random/secret.js';
import { at } from '../../foundation/numbers.js';
import { checkPredictions } from '../files/predictions.js';
import type { PredictionRules } from '../files/rules.js';
import type { Said } from '../questions/values/judge-values.js';
import type { ValuesKey, ValuesRules } from '../questions/values/question.js';
import { readAnswer } from '../questions/read-answer.js';
import type { Keys, Question, Rules } from '../questions/question.js';
import { nearlySameFiles, type FileOfNumbers, type NearlySame } from './nearly-same-files.js';
import { rightForAnother, type TypedAnswer, type TypedLikeness } from './typed-for-another.js';

/** Rows in which two files differ that are listed. */
const MOST_ROWS = 8;

/** An answer to one question that passed its checks. */
export interface AnswerOf {
  readonly answer: string;
  readonly student: string;
  readonly fields: Readonly<Record<string, string>>;
  readonly file: { readonly name: string; readonly bytes: Uint8Array } | null;
}

/** Files that are the same but for some rows, of which the first few are listed. */
export interface FilesAlike extends Omit<NearlySame, 'differing'> {
  /** How many rows differ. */
  readonly differing: number;
  readonly rows: readonly { readonly identifier: string; readonly first: number; readonly second: number }[];
}

/** What answers of a class to one question share that those of who works alone hardly do. */
export interface Likeness {
  /** Of questions whose numbers are drawn for each student; null of others. */
  readonly typed: TypedLikeness | null;
  /** Of predictions that are probabilities or numbers; null of others. */
  readonly files: readonly FilesAlike[] | null;
}

/**
 * Compares the answers of a class to one question, for staff alone.
 *
 * @param secret of the exercise, by which numbers are drawn
 * @param heldOut the held-out rows as the pack has them; null where it has none
 */
export function likenessOf(
  question: Question,
  { rules, key, secret }: { readonly rules: Rules; readonly key: Keys; readonly secret: Secret },
  answers: readonly AnswerOf[],
  heldOut: Table | null,
): Likeness {
  const respondent = (id: string) => ({ secret, question: question.id, id });
  if (question.kind === 'values') {
    const typed: TypedAnswer[] = answers.flatMap(({ answer, student, fields, file }) => {
      const { content } = readAnswer('values', { fields, file }, rules, respondent(student));
      return content === null ? [] : [{ answer, student, said: content as ReadonlyMap<string, Said> }];
    });
    const { figures } = rules as ValuesRules;
    const by = { figures, tolerance: question.tolerance, key: key as ValuesKey };
    return { typed: rightForAnother(by, respondent, typed), files: null };
  }
  if (question.kind !== 'predictions' || heldOut === null) return { typed: null, files: null };
  return { typed: null, files: filesAlike(rules as PredictionRules, answers, heldOut) };
}

function filesAlike(rules: PredictionRules, answers: readonly AnswerOf[], heldOut: Table): FilesAlike[] {
  const files: FileOfNumbers[] = answers.flatMap(({ answer, student, file }) => {
    const { predictions } = file ? checkPredictions(file.bytes, file.name, rules) : { predictions: null };
    const values =
      predictions?.kind === 'numbers' ? predictions.predicted : predictions?.probabilities?.at(-1);
    return values ? [{ answer, student, values }] : [];
  });
  const byAnswer = new Map(files.map((file) => [file.answer, file.values]));
  const valueOf = (answer: string, row: number) => byAnswer.get(answer)?.[row] ?? NaN;
  const unknown = (row: number) =>
    heldOut.columns.some((column) =>
      isCoded(column) ? at(column.codes, row) < 0 : Number.isNaN(at(column.values, row)),
    );
  return nearlySameFiles(files, unknown).map(({ differing, ...pair }) => ({
    ...pair,
    differing: differing.length,
    rows: differing.slice(0, MOST_ROWS).map((row) => ({
      identifier: rules.identifiers[row] ?? '',
      first: valueOf(pair.first, row),
      second: valueOf(pair.second, row),
    })),
  }));
}
