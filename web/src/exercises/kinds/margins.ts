import type { Question } from '@modest-sieve/core/assessment';
import type { ComponentType } from 'react';
import { ChoiceMargin } from './choice.js';
import { CurveMargin } from './curve.js';
import { MarkingSentences } from './marking-sentences.js';
import { ModelMargin } from './model.js';
import { QuestionSentence, type MarginProps } from './question-sentence.js';
import { ValuesMargin } from './values.js';

/** For each kind of question, what is beside it while it is composed: its key and how it is marked. */
const MARGINS: { readonly [K in Question['kind']]: ComponentType<MarginProps<K>> } = {
  predictions: MarkingSentences,
  model: ModelMargin,
  split: QuestionSentence,
  folds: QuestionSentence,
  curve: CurveMargin,
  values: ValuesMargin,
  choice: ChoiceMargin,
};

/** The component of a question's own kind. */
export const marginOf = <K extends Question['kind']>(kind: K): ComponentType<MarginProps<K>> => MARGINS[kind];
