import { closest } from 'fastest-levenshtein';
import { check, type Check } from '../../foundation/check.js';
import { SUM_TOLERANCE } from '../files/file-checks.js';
import { labelPlace } from '../files/label-place.js';
import type { Predictions } from '../files/reader.js';
import { at, counted } from '../../foundation/numbers.js';
import type { ModelRules } from '../questions/model/question.js';
import type { ModelPredictions } from './model-file.js';

const failed = (id: string, message: string, expected: string): Check =>
  check(id, 'fails', message, { expected });

/** More rows without a prediction than this share are a fault of the model. */
const MOST_WITHOUT = 0.5;

/**
 * What a model said of rows, as predictions that are judged, with the checks of it.
 *
 * @param without what a row without a prediction is taken to say: the code of a class, or a number
 */
export function readPredictions(
  said: ModelPredictions,
  rules: ModelRules,
  without: number,
): { checks: Check[]; predictions: Predictions | null; without: Uint8Array } {
  const { values, problems } = said;
  const none = Uint8Array.from(values, (value) => (value === null ? 1 : 0));
  const missing = none.reduce((sum, one) => sum + one, 0);
  const examples = problems.map(({ row, message }) => ({
    line: null,
    column: null,
    text: `row ${row + 1}: ${message}`,
  }));
  const isMost = missing > MOST_WITHOUT * values.length;
  const runs =
    missing === 0
      ? check('runs', 'holds', 'Every row has a prediction', { measured: counted(values.length, 'row') })
      : check(
          'runs',
          isMost ? 'fails' : 'unsure',
          isMost
            ? 'The model has no prediction for most rows.'
            : 'Some rows have no prediction; such rows count as the commonest class or the mean of the training rows.',
          { measured: counted(missing, 'row'), expected: 'a prediction for every row', examples },
        );
  if (runs.outcome === 'fails') return { checks: [runs], predictions: null, without: none };
  if (rules.task === 'regression') {
    const word = values.find((value) => typeof value === 'string');
    if (word !== undefined || said.probabilities)
      return {
        checks: [
          runs,
          failed('numbers', 'The model gives classes, and a number is asked for.', 'a number for each row'),
        ],
        predictions: null,
        without: none,
      };
    const predicted = Float64Array.from(values, (value) => (typeof value === 'number' ? value : without));
    return { checks: [runs], predictions: { kind: 'numbers', predicted }, without: none };
  }
  const labels = labelsCheck(said, rules);
  const predicted = Int32Array.from(values, (value) =>
    value === null ? without : Math.max(0, labelPlace(rules.labels, String(value))),
  );
  const shares = sharesOf(said, rules, none, without);
  const probabilities = probabilitiesCheck(shares, rules);
  return {
    checks: [runs, labels, ...(probabilities ? [probabilities] : [])],
    predictions: {
      kind: 'labels',
      predicted,
      // Of 32 bits they may be beyond their bounds by a rounding.
      probabilities: shares?.map((of) => of.map((share) => Math.min(1, Math.max(0, share)))) ?? null,
      derived: false,
    },
    without: none,
  };
}

/** Whether every label is one of the target's. */
function labelsCheck({ values }: ModelPredictions, { labels }: ModelRules): Check {
  const foreign = [...new Set(values.filter((value) => value !== null).map(String))].filter(
    (label) => labelPlace(labels, label) < 0,
  );
  const expected = labels.join(', ');
  if (foreign.length === 0)
    return check('labels', 'holds', 'Every prediction is a label of the target', { expected });
  const isNumber = values.some((value) => typeof value === 'number' && !Number.isInteger(value));
  return check(
    'labels',
    'fails',
    isNumber
      ? 'The model gives numbers, and labels are asked for.'
      : 'The model gives labels that the target does not have.',
    {
      measured: counted(foreign.length, 'other label'),
      expected,
      examples: foreign.map((label) => ({
        line: null,
        column: null,
        text: isNumber ? label : `“${label}”; the nearest is “${closest(label, [...labels])}”`,
      })),
    },
  );
}

/** Probabilities in the order of the rules' labels; null where the model gives none of them all. */
function sharesOf(
  { probabilities }: ModelPredictions,
  { labels }: ModelRules,
  none: Uint8Array,
  without: number,
): Float64Array[] | null {
  if (!probabilities) return null;
  const codes = probabilities.labels.map((label) => labelPlace(labels, label));
  const places = labels.map((_, code) => codes.indexOf(code));
  const isForeign = codes.includes(-1);
  // A class that the model never saw has no chance.
  if (isForeign || places.every((place) => place < 0)) return null;
  return places.map((place, code) =>
    Float64Array.from(none, (isNone, row) => {
      if (isNone === 1) return code === without ? 1 : 0;
      return place < 0 ? 0 : (probabilities.values[place]?.[row] ?? NaN);
    }),
  );
}

function probabilitiesCheck(
  shares: readonly Float64Array[] | null,
  { needs, labels }: ModelRules,
): Check | null {
  if (!shares)
    return needs === 'probabilities'
      ? failed(
          'probabilities',
          'The model gives no probability of each class, which the metric needs.',
          `probabilities of ${labels.join(', ')}`,
        )
      : null;
  const rows = at(shares, 0).length;
  for (let row = 0; row < rows; row++) {
    const own = shares.map((of) => of[row] ?? NaN);
    const sum = own.reduce((a, b) => a + b, 0);
    const outside = own.find((share) => !(share >= -SUM_TOLERANCE && share <= 1 + SUM_TOLERANCE));
    if (outside !== undefined || Math.abs(sum - 1) > SUM_TOLERANCE)
      return check(
        'probabilities',
        'fails',
        'Probabilities lie from 0 to 1 and sum to 1; those of the model do not.',
        {
          examples: [{ line: null, column: null, text: `row ${row + 1}: ${own.join(', ')}` }],
        },
      );
  }
  return check('probabilities', 'holds', 'Probabilities lie from 0 to 1 and sum to 1');
}
