import type { AnswerKey } from '../files/judge.js';
import type { RowsKey } from './assignments/key.js';
import type { ChoiceKey, ChoiceQuestion, ChoiceRules } from './choice/question.js';
import { scheduledMarks } from './scored/scheduled.js';
import type { SheetOf } from './contract/answer.js';
import type { CurveKey, CurveQuestion, CurveRules } from './curve/question.js';
import type { FoldsQuestion, FoldsRules } from './folds/question.js';
import type { ModelKey, ModelQuestion, ModelRules } from './model/question.js';
import type { PredictionsQuestion, PredictionsRules } from './predictions/question.js';
import type { SplitQuestion, SplitRules } from './split/question.js';
import type { ValuesKey, ValuesQuestion, ValuesRules } from './values/question.js';

/** A question of an exercise, with all that only staff may know. */
export type Question =
  | PredictionsQuestion
  | ModelQuestion
  | SplitQuestion
  | FoldsQuestion
  | CurveQuestion
  | ValuesQuestion
  | ChoiceQuestion;

/** What an answer must look like, by kind of question. Students may know all of it, and it reveals no answer. */
export type Rules =
  PredictionsRules | ModelRules | SplitRules | FoldsRules | CurveRules | ValuesRules | ChoiceRules;

/** The answers to a question, by its kind. They never leave the server but to staff. */
export type Keys = AnswerKey | ModelKey | RowsKey | CurveKey | ValuesKey | ChoiceKey;

export type QuestionKindKey = Question['kind'];

/** A question as one student sees it: everything that may be known of it before it is answered. */
export interface Sheet extends SheetOf<QuestionKindKey> {
  readonly kind: QuestionKindKey;
}

/** All marks of a question. */
export const marksOf = (question: Question): number =>
  'scheme' in question ? scheduledMarks(question) : question.marks;
