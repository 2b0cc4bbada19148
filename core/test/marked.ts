import { bytesOf } from './files.js';
import type { AnswerKey } from '../src/assessment/files/judge.js';
import { markAnswer } from '../src/assessment/disclosure/result.js';
import type { MarkScheme } from '../src/assessment/marking/scheme.js';
import type {
  PredictionsQuestion,
  PredictionsRules,
} from '../src/assessment/questions/predictions/question.js';
import type { Answer } from '../src/assessment/questions/contract/answer.js';
import { PUBLIC_SECRET } from '../src/foundation/random/secret.js';

/** A line for areas under the curve, of which more is better. */
export const area: MarkScheme = { nothing: 0.5, most: 0.78, all: 0.84, mostMarks: 8, marks: 10 };

/** A question on 40 rows, of which the first 20 are for feedback. */
const n = 40;
const identifiers = Array.from({ length: n }, (_, i) => `r${i}`);
export const question: PredictionsQuestion = {
  id: 'q1',
  kind: 'predictions',
  title: 'Predict',
  text: '',
  metric: 'roc_auc',
  scheme: area,
};
export const rules: PredictionsRules = {
  identifier: 'id',
  identifiers,
  task: 'binary',
  labels: ['no', 'yes'],
  positive: 'yes',
  needs: 'probabilities',
  metric: 'roc_auc',
  scheme: area,
};
export const key: AnswerKey = {
  task: 'binary',
  labels: ['no', 'yes'],
  positive: 'yes',
  classes: Int32Array.from({ length: n }, (_, i) => i % 2),
  values: null,
  groups: null,
  feedback: Uint8Array.from({ length: n }, (_, i) => (i < 20 ? 1 : 0)),
};
export const who = { secret: PUBLIC_SECRET, question: 'q1', id: 'somebody' };
export const answer = (text: string): Answer => ({
  file: { name: 'f.csv', bytes: bytesOf(text) },
  fields: {},
});
export const predicted = (p: (i: number) => number) =>
  answer(`id,probability\n${identifiers.map((id, i) => `${id},${p(i)}`).join('\n')}\n`);
export const marked = (given: Answer) =>
  markAnswer(question, given, rules, key, { who, stepped: false, before: null });
/** Right on the feedback rows, wrong on the final ones. */
export const twofold = marked(predicted((i) => (i < 20 ? (i % 2 ? 0.9 : 0.1) : i % 2 ? 0.1 : 0.9)));
