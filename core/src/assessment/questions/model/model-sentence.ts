import type { ValuesOf } from '../../../data/sentence/parameter.js';
import { valuesOf, type SentenceKind } from '../../../data/sentence/sentence.js';
import type { ModelQuestion } from './question.js';

const PARAMETERS = {
  takes: {
    type: 'choice',
    label: 'formats',
    choices: [
      { value: 'any', text: 'ONNX, PMML or a table of coefficients' },
      { value: 'onnx', text: 'ONNX' },
      { value: 'pmml', text: 'PMML' },
      { value: 'coefficients', text: 'a table of coefficients' },
    ],
  },
  link: {
    type: 'choice',
    label: 'what the terms of a table sum to',
    choices: [
      { value: 'identity', text: 'the prediction' },
      { value: 'logit', text: 'the log-odds of the positive class' },
      { value: 'log', text: 'the logarithm of the prediction' },
    ],
  },
  without: { type: 'columns', label: 'columns that may not be used', none: 'none' },
  features: {
    type: 'choice',
    label: 'features of the held-out rows',
    choices: [
      { value: 'given', text: 'are in the pack' },
      { value: 'kept', text: 'stay here' },
    ],
  },
  coefficients: {
    type: 'choice',
    label: 'coefficients',
    choices: [
      { value: 'ignored', text: 'are not compared' },
      { value: 'compared', text: 'are compared with those of the reference run' },
    ],
  },
  overfitted: {
    type: 'number',
    label: 'share of the marks that an overfitted model earns at most',
    unit: '%',
    min: 0,
    max: 100,
    step: 5,
    start: 100,
  },
} as const;

export const MODEL_SENTENCE: SentenceKind<typeof PARAMETERS> = {
  key: 'model',
  title: 'a model',
  about: 'Which models are taken, what they may use, and what an overfitted one earns.',
  parameters: PARAMETERS,
  sentence: ({ takes }) =>
    `Taken as {takes}${takes === 'any' || takes === 'coefficients' ? ', where the terms of a table sum to {link}' : ''}; columns that may not be used: {without}; features of the held-out rows {features}; coefficients {coefficients}; an overfitted model earns at most {overfitted} of the marks.`,
};

type ModelValues = ValuesOf<typeof PARAMETERS>;

export const modelValues = ({ values }: Pick<ModelQuestion, 'values'>): ModelValues =>
  valuesOf(MODEL_SENTENCE, values);
