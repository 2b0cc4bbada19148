import type { ValuesOf } from '../../../data/sentence/parameter.js';
import { valuesOf, type SentenceKind } from '../../../data/sentence/sentence.js';
import type { PartShare } from '../assignments/assignment-checks.js';
import { credit } from '../contract/credit.js';
import type { SplitQuestion } from './question.js';

const share = (label: string, start: number, min: number) =>
  ({ type: 'number', label, unit: '%', min, max: 99, step: 1, start }) as const;
const within = (start: number, label: string) =>
  ({ type: 'number', label, unit: 'points', min: 0, max: 50, start }) as const;

const PARAMETERS = {
  training: share('share of training rows', 80, 1),
  validation: share('share of validation rows', 0, 0),
  within: within(1, 'points by which sizes may be off'),
  stratify: { type: 'column', label: 'stratify by', none: 'nothing' },
  sharesWithin: within(2, 'points by which shares may be off'),
  group: { type: 'column', label: 'group by', none: 'column: none' },
  time: { type: 'column', label: 'order of time', of: ['time', 'number'], none: 'no column' },
  twins: {
    type: 'choice',
    label: 'rows with the same features',
    choices: [
      { value: 'anywhere', text: 'anywhere' },
      { value: 'together', text: 'in one part' },
    ],
  },
  credit,
} as const;

export const SPLIT_SENTENCE: SentenceKind<typeof PARAMETERS> = {
  key: 'split',
  title: 'a split',
  about: 'What a split of the training rows must keep; the rest of the rows is for testing.',
  parameters: PARAMETERS,
  sentence: ({ stratify }) =>
    `{training} for training, {validation} for validation, the rest for testing, within {within}; with equal shares of {stratify}${stratify === '' ? '' : ', within {sharesWithin}'}; never splitting rows of one {group}; parts one after another in {time}; rows with the same features {twins}; {credit}.`,
};

export type SplitValues = ValuesOf<typeof PARAMETERS>;

/** The parts that are asked for and their shares. */
export function partsOf({ training, validation }: SplitValues): PartShare[] {
  const parts = [
    { name: 'training', share: training / 100 },
    { name: 'validation', share: validation / 100 },
    { name: 'test', share: (100 - training - validation) / 100 },
  ];
  return parts.filter((part) => part.share > 0);
}

export const splitValues = ({ values }: Pick<SplitQuestion, 'values'>): SplitValues =>
  valuesOf(SPLIT_SENTENCE, values);
