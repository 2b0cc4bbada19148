import { markingMetrics } from '../../marking/metrics.js';
import type { ValuesOf } from '../../../data/sentence/parameter.js';
import { valuesOf, type SentenceKind } from '../../../data/sentence/sentence.js';
import { TASKS } from '../../../data/table/roles.js';
import { credit, unjudged } from '../contract/credit.js';
import type { FoldsQuestion } from './question.js';
import { ANY, REFIT_PARAMETERS } from '../refits/refit-question.js';

const METRICS = TASKS.flatMap(markingMetrics).filter((metric, i, all) => all.indexOf(metric) === i);

const PARAMETERS = {
  k: { type: 'number', label: 'number of folds', min: 2, max: 1000, step: 1, start: 5 },
  stratify: { type: 'column', label: 'stratify by', none: 'nothing' },
  group: { type: 'column', label: 'group by', none: 'column: none' },
  reports: {
    type: 'choice',
    label: 'what else is handed in',
    choices: [
      { value: 'nothing', text: 'nothing else' },
      { value: 'predictions', text: 'out-of-fold predictions and their figures' },
    ],
  },
  metric: {
    type: 'choice',
    label: 'metric',
    choices: METRICS.map(({ key, name }) => ({ value: key, text: name })),
  },
  ...REFIT_PARAMETERS,
  credit,
  unjudged,
} as const;

export const FOLDS_SENTENCE: SentenceKind<typeof PARAMETERS> = {
  key: 'folds',
  title: 'folds',
  about: 'What folds of the training rows must keep, and what else is handed in with them.',
  parameters: PARAMETERS,
  sentence: ({ reports, family }) =>
    `{k} folds of equal size, with equal shares of {stratify}, never splitting rows of one {group}; with them {reports}${reports === 'nothing' ? '' : `, judged by {metric}, of {family}${family === ANY ? '' : ' with {settings}'}`}; {credit}; what could not be judged {unjudged}.`,
};

export type FoldsValues = ValuesOf<typeof PARAMETERS>;
/** Questions of earlier versions name no model, and leave out what could not be judged. */
export const foldsValues = ({ values }: Pick<FoldsQuestion, 'values'>): FoldsValues =>
  valuesOf(FOLDS_SENTENCE, { family: ANY, settings: '', unjudged: 'left out', ...values });
