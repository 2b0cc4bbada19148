import { check, type Check } from '../../../foundation/check.js';
import { judgeAgainst, type AnswerKey } from '../../files/judge.js';
import type { Predictions } from '../../files/reader.js';
import { normalAt } from '../../../foundation/statistics/distributions.js';
import { standardErrors } from '../../marking/standard-errors.js';
import { figureOf } from '../../../metrics/judged.js';
import { metricNamed } from '../../../metrics/registry.js';
import { counted, indices, shortNumber } from '../../../foundation/numbers.js';
import type { ModelReport, RowsRun } from '../contract/model-run.js';
import type { ModelKey } from './question.js';

/** Chance that a model which is no worse is called overfitted, over all reference runs together. */
const FALSE_ALARMS = 0.05;

const allRows = (key: AnswerKey) => indices(key.feedback.length);

/** A metric on all rows of a key; null where it is undefined. */
export const scoreOn = (metric: string, key: AnswerKey, predictions: Predictions): number | null =>
  figureOf(metricNamed(metric), judgeAgainst(key, predictions, allRows(key))).value;

/**
 * By how many standard errors predictions are better than others on the same rows, by the jackknife over whole groups;
 * null where nothing can be said. Those that are no better at all are not looked at closely: the jackknife takes long.
 */
function lead(name: string, key: AnswerKey, one: Predictions, other: Predictions): number | null {
  const metric = metricNamed(name);
  const rows = allRows(key);
  const [own, before] = [judgeAgainst(key, one, rows), judgeAgainst(key, other, rows)];
  const [score, against] = [figureOf(metric, own).value, figureOf(metric, before).value];
  const way = metric.better === 'higher' ? 1 : -1;
  if (score === null || against === null || way * (score - against) <= 0) return null;
  const { paired } = standardErrors(metric, own, before, key.groups);
  return paired === null || paired === 0 ? null : (way * (score - against)) / paired;
}

/**
 * Whether a model is overfitted: a reference run that fits the training rows less closely does better on the held-out
 * rows, each beyond chance. The paired difference on the held-out rows must exceed the one-sided bound of 5 %, divided by
 * the number of reference runs (Bonferroni), so that a model which is no worse than all of them is called overfitted in at
 * most 5 % of cases; measured in `docs/verdicts.md`. A gap between both scores by itself says nothing of it.
 */
export function fitCheck(
  name: string,
  training: Predictions | null,
  heldOut: Predictions,
  key: ModelKey,
): Check {
  const metric = metricNamed(name);
  const [near, far] = [
    training ? scoreOn(name, key.training.answers, training) : null,
    scoreOn(name, key, heldOut),
  ];
  const text = (value: number | null) => (value === null ? 'undefined' : shortNumber(value));
  const measured = `${metric.name} ${text(near)} on the training rows, ${text(far)} on the held-out rows`;
  if (!training || near === null || far === null || key.references.length === 0)
    return check(
      'fit',
      'unsure',
      'A gap between training and held-out score is no evidence of overfitting by itself, and there is no reference run to compare with.',
      { measured },
    );
  const beyond = normalAt(1 - FALSE_ALARMS / key.references.length);
  const leads = (answers: AnswerKey, one: Predictions, other: Predictions) =>
    (lead(name, answers, one, other) ?? 0) > beyond;
  const better = key.references.find(
    (reference) =>
      leads(key, reference.heldOut, heldOut) && leads(key.training.answers, training, reference.training),
  );
  return better
    ? check(
        'fit',
        'fails',
        `It is overfitted: a reference run, ${better.name}, fits the training rows less closely and does better on the held-out rows.`,
        {
          measured,
          expected: `${text(scoreOn(name, key.training.answers, better.training))} and ${text(scoreOn(name, key, better.heldOut))}, as the reference run`,
        },
      )
    : check(
        'fit',
        'holds',
        'No reference run that fits the training rows less closely does better on the held-out rows beyond chance.',
        { measured },
      );
}

/** Held-out rows without a prediction. How many they are, and why, would reveal features that students do not have. */
export function withoutCheck({ predictions, without, problem }: RowsRun, isGiven: boolean): Check {
  const message = predictions
    ? 'Some held-out rows have no prediction; they count as the commonest class or the mean of the training rows.'
    : 'The model runs on the training rows, and fails on the held-out rows: it earns no marks.';
  if (!isGiven) return check('held-out', 'fails', message);
  const rows = without.reduce((sum, one) => sum + one, 0);
  return check('held-out', 'fails', message, {
    measured: problem ?? counted(rows, 'row'),
    expected: 'a prediction for every row',
  });
}

/** Within so much of an estimate, or of its standard error, a coefficient is the same: programs stop at other places. */
const WITHIN = 0.01;
const WITHIN_ERROR = 0.05;

/** A term however its blanks and capitals are written. */
const plain = (term: string): string => term.toLowerCase().replace(/\s+/g, '');

/** Coefficients beside those of the reference run. */
export function coefficientCheck(
  { picture }: ModelReport,
  wanted: NonNullable<ModelKey['coefficients']>,
  positive: string | null,
): Check {
  if (picture.kind !== 'coefficients')
    return check('coefficients', 'unsure', 'The model has no coefficients that could be compared.');
  // The log-odds of the other class are those of the positive one with their signs exchanged.
  const sign = picture.of === null || picture.of === positive ? 1 : -1;
  const own = new Map(picture.terms.map(({ term, estimate }) => [plain(term), sign * estimate]));
  const off = wanted.flatMap(({ term, estimate, se }) => {
    const found = own.get(plain(term));
    if (found === undefined) return [`${term} is missing`];
    const near = Math.max(WITHIN * Math.abs(estimate), WITHIN_ERROR * (se ?? 0));
    return Math.abs(found - estimate) <= near
      ? []
      : [`${term}: ${shortNumber(found)} for ${shortNumber(estimate)}`];
  });
  const measured = `${wanted.length - off.length} of ${counted(wanted.length, 'coefficient')}`;
  return off.length === 0
    ? check('coefficients', 'holds', 'The coefficients are those of the reference run.', { measured })
    : check('coefficients', 'fails', 'Coefficients differ from those of the reference run.', {
        measured,
        expected: 'each within 1 %, or a twentieth of its standard error',
        examples: off.map((text) => ({ line: null, column: null, text })),
      });
}
