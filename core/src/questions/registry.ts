import { SieveError } from '../errors.js';
import { choice } from './choice.js';
import { curve } from './curve.js';
import { folds } from './folds.js';
import type { QuestionKind, Subject } from './kind.js';
import { model } from './model.js';
import { predictions } from './predictions.js';
import type { Question, QuestionKindKey } from './question.js';
import { split } from './split.js';
import { values } from './values.js';

/** Every kind of question, in the order in which a menu has them. */
export const QUESTION_KINDS: readonly QuestionKind[] = [
  predictions,
  model,
  split,
  folds,
  curve,
  values,
  choice,
];

/** @throws SieveError `question-kind` */
export function questionKindOf(key: QuestionKindKey): QuestionKind {
  const kind = QUESTION_KINDS.find((one) => one.key === key);
  if (!kind)
    throw new SieveError('question-kind', `There is no kind of question “${key}”.`, {
      field: 'kind',
    });
  return kind;
}

const MOST_QUESTIONS = 20;
const NAME = /^[a-z0-9-]{1,20}$/;

/**
 * Makes sure that the questions of an exercise can be asked.
 *
 * @throws SieveError with the question's place as its field: `questions.0.metric`
 */
export function checkQuestions(questions: readonly Question[], subject: Subject): void {
  if (questions.length === 0) throw new SieveError('questions', 'Add a question.', { field: 'questions' });
  if (questions.length > MOST_QUESTIONS)
    throw new SieveError('questions', `An exercise has at most ${MOST_QUESTIONS} questions.`, {
      field: 'questions',
    });
  const seen = new Set<string>();
  questions.forEach((question, i) => {
    const place = `Question ${i + 1}`;
    if (!NAME.test(question.id) || seen.has(question.id))
      throw new SieveError('questions', `${place} has no name of its own.`, { field: `questions.${i}.id` });
    seen.add(question.id);
    try {
      if (question.title.trim() === '')
        throw new SieveError('questions', 'Give it a title.', { field: 'title' });
      questionKindOf(question.kind).check(question, subject);
    } catch (error) {
      if (!(error instanceof SieveError)) throw error;
      throw new SieveError(error.code, `${place}: ${error.message}`, {
        ...error.place,
        field: `questions.${i}.${error.place.field ?? ''}`,
      });
    }
  });
}
