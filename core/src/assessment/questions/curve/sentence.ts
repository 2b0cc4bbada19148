import { credit } from '../contract/credit.js';
import { COMPARED_FAMILIES } from '../../generators/compared-families.js';
import type { ValuesOf } from '../../../data/sentence/parameter.js';
import { valuesOf, type SentenceKind } from '../../../data/sentence/sentence.js';
import type { CurveQuestion } from './question.js';

/** Where the curve of a reference run is compared with. */
export const RUN = 'run';

const PARAMETERS = {
  setting: { type: 'text', label: 'name of the setting', start: 'depth' },
  settings: { type: 'texts', label: 'settings, from simple to complex' },
  measure: {
    type: 'choice',
    label: 'what is measured',
    choices: [
      { value: 'error', text: 'errors, of which lower is better' },
      { value: 'score', text: 'scores, of which higher is better' },
    ],
  },
  rule: {
    type: 'choice',
    label: 'rule of choice',
    choices: [
      { value: 'best', text: 'the best' },
      { value: 'one-se', text: 'the simplest within one standard error of the best' },
    ],
  },
  family: {
    type: 'choice',
    label: 'model that is computed here',
    choices: [
      { value: RUN, text: 'the reference run that is named' },
      ...COMPARED_FAMILIES.filter(({ hyperparameters }) => hyperparameters.length > 0).map(
        ({ key, title }) => ({
          value: key,
          text: title,
        }),
      ),
    ],
  },
  credit,
} as const;

export const CURVE_SENTENCE: SentenceKind<typeof PARAMETERS> = {
  key: 'curve',
  title: 'a curve',
  about: 'Which settings are tried, what is measured of them, and by which rule one is chosen.',
  parameters: PARAMETERS,
  sentence: () =>
    'Training and validation by {setting}, from simple to complex {settings}, as {measure}; chosen is {rule}; compared with {family}; {credit}.',
};

type Values = ValuesOf<typeof PARAMETERS>;

/** Questions of earlier versions name no family. */
export const readValues = ({ values }: Pick<CurveQuestion, 'values'>): Values =>
  valuesOf(CURVE_SENTENCE, { family: RUN, ...values });
