import { metricCalled, nameOf } from './metric-names.js';
import { changed, valueSlip, type ValueSlip } from './value-slip.js';

/** Whether a figure is a share, from 0 (or −1) to 1. */
const isShare = (asked: string): boolean => metricCalled(asked)?.range[1] === 1;

/** Figures that are fractions and no metric. */
const FRACTIONS: readonly string[] = [
  'agreement',
  'area under the curve',
  'posterior of survival',
  'posterior of survival by weight',
  'probability of survival',
  'error rate without weights',
  'error rate with weights',
  'share of missing cells',
  'share of the commonest value',
];

/** Mistakes with probabilities, and with fractions of any kind. */
export const PROBABILITY_SLIPS: readonly ValueSlip[] = [
  valueSlip(
    {
      id: 'area-from-labels',
      title: 'area from labels',
      says: 'You computed the area from labels, and not from probabilities.',
      remedy:
        'An ROC curve goes through every threshold, so that it takes probabilities or scores. Of labels it has one point, and the area is the mean of recall and specificity.',
      example:
        'A model with recall 0.8 and specificity 0.9 at 0.5 has 0.85 from labels; its area may be 0.93.',
    },
    (asked, { figures, labels }) => {
      const [recall, specificity] = [figures[nameOf('recall')], figures[nameOf('specificity')]];
      return asked === nameOf('roc_auc') && labels && recall !== undefined && specificity !== undefined
        ? [(recall + specificity) / 2]
        : [];
    },
  ),
  changed(
    {
      id: 'area-reversed',
      title: 'area of the other class',
      says: 'You gave 1 less the area: the probabilities are those of the other class.',
      remedy:
        'The area takes the probability of the positive class. Libraries give a column for each class, in the order of the labels.',
      example: 'Where “lost” is positive and its area is 0.82, the probabilities of “survived” have 0.18.',
    },
    (asked) => asked === nameOf('roc_auc') || asked === 'area under the curve',
    (right) => [1 - right],
  ),
  ...(
    [
      ['log-loss-base-2', 'log loss in base 2', 'base 2', Math.LN2, '1.00', '0.69'],
      ['log-loss-base-10', 'log loss in base 10', 'base 10', Math.LN10, '0.30', '0.69'],
    ] as const
  ).map(([id, title, base, of, wrong, right]) =>
    changed(
      {
        id,
        title,
        says: `You took logarithms to ${base}.`,
        remedy:
          'Log loss takes natural logarithms by definition here. Most libraries do; a spreadsheet’s LOG is to base 10, its LN is natural.',
        example: `A probability of 0.5 for what happened costs ${right}; with logarithms to ${base} it would be ${wrong}.`,
      },
      (asked) => asked === nameOf('log_loss'),
      (loss) => [loss / of],
    ),
  ),
  changed(
    {
      id: 'percent-for-fraction',
      title: 'percent for a fraction',
      says: 'You typed a percentage without its sign, where a fraction is asked.',
      remedy: 'Type 0.869, or 86.9 % with the sign. Both are taken.',
      example: '86.9 is a hundred times the fraction 0.869.',
    },
    (asked, { scores }) => isShare(asked) || scores !== undefined || FRACTIONS.includes(asked),
    (right) => (Math.abs(right) <= 1 ? [100 * right] : []),
  ),
];
