import { at } from '../../foundation/numbers.js';
import type { QuestionKindKey, Rules } from '../questions/question.js';
import type { Answer } from '../questions/contract/answer.js';
import { readAnswer } from '../questions/read-answer.js';
import { questionKindOf } from '../questions/registry.js';

/** Things of which a comparison shows both texts. */
const MOST_EXAMPLES = 5;

/** How the files of two answers to one question differ. */
export interface AnswerDifference {
  /** Rows or settings that were asked for. */
  readonly of: number;
  readonly changed: number;
  /** The first of them. */
  readonly examples: readonly { readonly name: string; readonly before: string; readonly after: string }[];
}

/**
 * Compares a student's own answers: it knows no key. Null where one of them cannot be read, or where the question is
 * answered in fields.
 */
export function compareAnswers(
  kindKey: QuestionKindKey,
  rules: Rules,
  before: Answer,
  after: Answer,
): AnswerDifference | null {
  const kind = questionKindOf(kindKey);
  const [first, second] = [before, after].map((answer) => readAnswer(kindKey, answer, rules).content);
  if (first == null || second == null) return null;
  const [was, is] = [kind.given(first, rules), kind.given(second, rules)];
  if (!was || !is) return null;
  const examples: { name: string; before: string; after: string }[] = [];
  let changed = 0;
  for (let place = 0; place < is.names.length; place++) {
    const texts = { before: was.text(place), after: is.text(place) };
    if (texts.before === texts.after) continue;
    changed++;
    if (examples.length < MOST_EXAMPLES) examples.push({ name: at(is.names, place), ...texts });
  }
  return { of: is.names.length, changed, examples };
}
