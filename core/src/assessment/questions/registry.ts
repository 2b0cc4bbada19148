import { SieveError } from '../../foundation/errors.js';
import { choice } from './choice/choice.js';
import { curve } from './curve/curve.js';
import { folds } from './folds/folds.js';
import type { QuestionKind, Subject } from './contract/kind.js';
import { model } from './model/model.js';
import { predictions } from './predictions/predictions.js';
import { Body } from './contract/body.js';
import type { Keys, Question, QuestionKindKey, Rules } from './question.js';
import { split } from './split/split.js';
import { values } from './values/values.js';

/** A kind whose question, rules and key are not known to belong together; those who use it pass what was made together. */
type AnyKind = QuestionKind<Question, Rules, Keys>;

/** Every kind of question, in the order in which a menu has them. */
export const QUESTION_KINDS: readonly AnyKind[] = [predictions, model, split, folds, curve, values, choice];

/** @throws SieveError `question-kind` */
export function questionKindOf(key: QuestionKindKey): AnyKind {
  const kind = QUESTION_KINDS.find((one) => one.key === key);
  if (!kind)
    throw new SieveError('question-kind', `There is no kind of question “${key}”.`, {
      field: 'kind',
    });
  return kind;
}

const LONGEST_TITLE = 200;
const LONGEST_TEXT = 20_000;

/**
 * A question as it comes from outside: its head, and what its kind takes of the rest.
 *
 * @param place what comes before the names of fields in errors, such as `questions.0`
 * @throws SieveError `question` with the field that is not what it must be, `question-kind`
 */
export function readQuestion(value: unknown, place: string): Question {
  const body = new Body(value, place);
  const head = {
    id: body.text('id'),
    title: body.text('title', LONGEST_TITLE),
    text: body.text('text', LONGEST_TEXT),
  };
  const question = questionKindOf(body.text('kind') as QuestionKindKey).from(head, body);
  body.refuseOthers();
  return question;
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
