import type { ValuesOf } from '../../../data/sentence/parameter.js';
import { valuesOf, type SentenceKind } from '../../../data/sentence/sentence.js';
import type { ChoiceQuestion } from './question.js';

const PARAMETERS = {
  manner: {
    type: 'choice',
    label: 'how statements are answered',
    choices: [
      { value: 'each', text: 'each is said to be true or false' },
      { value: 'one', text: 'the one that is true is chosen' },
    ],
  },
  credit: {
    type: 'choice',
    label: 'credit',
    choices: [
      { value: 'each', text: 'each right answer earns its share' },
      { value: 'less', text: 'right answers less wrong ones count' },
      { value: 'all', text: 'all must be right' },
    ],
  },
} as const;

export const CHOICE_SENTENCE: SentenceKind<typeof PARAMETERS> = {
  key: 'choice',
  title: 'a choice',
  about: 'How statements are answered, and how that is marked. Right less wrong takes what guessing earns.',
  parameters: PARAMETERS,
  sentence: ({ manner }) =>
    manner === 'one' ? 'Of the statements {manner}.' : 'Of the statements {manner}; {credit}.',
};

type Values = ValuesOf<typeof PARAMETERS>;

export const readValues = ({ values }: Pick<ChoiceQuestion, 'values'>): Values =>
  valuesOf(CHOICE_SENTENCE, values);
