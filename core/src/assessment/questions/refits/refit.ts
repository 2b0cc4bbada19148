import { judgeAgainst, type AnswerKey } from '../../files/judge.js';
import type { Predictions } from '../../files/reader.js';
import { check, type Check } from '../../../foundation/check.js';
import { summariseFolds } from '../../../evaluation/comparison/over-folds.js';
import { figureOf, resampled, type Judged } from '../../../metrics/judged.js';
import type { Metric } from '../../../metrics/metric.js';
import { judgedBy } from '../../../models/fitted.js';
import { targetOf, targetRows } from '../../../models/prepared/target.js';
import { at, indices, shortNumber } from '../../../foundation/numbers.js';
import { pearson } from '../../../data/profile/association.js';
import type { Plan } from '../../../data/sentence/sentence.js';
import type { Roles } from '../../../data/table/roles.js';
import type { Table } from '../../../data/table/table.js';
import { predictFold } from '../../../evaluation/trials/measure.js';

/** What a model that a question names is fitted to on a student's own folds: the training rows in the order of the pack. */
export interface Refit {
  readonly model: Plan;
  readonly table: Table;
  readonly roles: Pick<Roles, 'target' | 'task' | 'positive'>;
  readonly features: readonly string[];
}

/**
 * Limits within which predictions count as those of the same model; one pair that holds is enough. `least` is the
 * correlation with those found here: other programs penalise, scale and break ties in other ways. `most` is the correlation
 * of what they differ by from those found here with what these are off by: 1 where a linear model was trained on the row.
 */
interface Limits {
  readonly least: number;
  readonly most: number;
}

/** Families that give nearly the same prediction of each row in any program. */
const ROW_BY_ROW: Readonly<Record<string, readonly Limits[]>> = {
  linear: [{ least: 0.95, most: 0.4 }],
  nearest: [{ least: 0.9, most: 0.4 }],
  'naive-bayes': [{ least: 0.9, most: 0.4 }],
  // A penalty, which other programs apply by default, moves predictions further: of few rows towards the truth.
  logistic: [
    { least: 0.9, most: 0.7 },
    { least: 0.75, most: 0.3 },
  ],
};

/** Where a logistic regression is separated its estimates are infinite, and a penalty changes more. */
const SEPARATED: Limits = { least: 0.85, most: 0.55 };

/** A probability that only a separated logistic regression gives. */
const HARDLY_POSSIBLE = 1e-10;

const isSeparated = ({ kind, data }: Judged): boolean =>
  kind === 'labels' && (data.probabilities ?? []).some((of) => of.some((chance) => chance < HARDLY_POSSIBLE));

/** Correlation with the truth, given the predictions found here, up to which predictions of another tree are honest. */
const BEYOND = 0.6;

/** Standard errors of the difference over the folds within which the figure of another program's tree lies. */
const WITHIN = 4;

/** What the model says of rows when it is fitted to others. */
function predicted(
  { model, table, roles, features }: Refit,
  training: Int32Array,
  test: Int32Array,
): readonly Float64Array[] {
  return predictFold({
    ...{ table, model, features, training, test },
    task: roles.task,
    targetName: roles.target,
    group: null,
    target: targetOf(table, roles),
    weights: null,
    seed: 0,
  });
}

/** Out-of-fold predictions found here on the folds of a student. */
function refitPredictions(refit: Refit, folds: Int32Array, k: number): Judged {
  const rows = indices(folds.length);
  const all: Float64Array[] = [];
  for (let fold = 0; fold < k; fold++) {
    const test = rows.filter((row) => folds[row] === fold);
    const training = rows.filter((row) => folds[row] !== fold);
    predicted(refit, training, test).forEach((values, c) => {
      const own = (all[c] ??= new Float64Array(folds.length));
      test.forEach((row, i) => (own[row] = at(values, i)));
    });
  }
  return judgedBy(targetRows(targetOf(refit.table, refit.roles), rows), all);
}

/**
 * Whether predictions are those of the named model on the student's own folds: row by row where programs agree so far, by
 * the figure otherwise, and then no nearer to the truth than such a model can come.
 *
 * How often honest work fails and how often cheats are found is measured by `npm run prove -- honest`: see docs/verdicts.md.
 */
export function refitCheck(
  refit: Refit,
  metric: Metric,
  key: AnswerKey,
  predictions: Predictions,
  folds: Int32Array,
  k: number,
): Check {
  const rows = indices(folds.length);
  let found: Judged;
  try {
    found = refitPredictions(refit, folds, k);
  } catch {
    // A fold without a class cannot be trained on: the student's predictions cannot be compared either.
    return check('refit', 'unsure', 'The named model could not be fitted on these folds');
  }
  const own = judgeAgainst(key, predictions, rows);
  const [s, r, y] = columnsOf(own, found);
  const same = correlation(s, r);
  const limits = ROW_BY_ROW[refit.model.kind];
  if (limits) {
    // What a model that has seen the row adds to one that has not points at the truth.
    const drawn = correlation(difference(s, r), difference(y, r));
    const separated = refit.model.kind === 'logistic' && isSeparated(found);
    const pairs = separated ? [...limits, SEPARATED] : limits;
    return refitted(
      pairs.some(({ least, most }) => same >= least && drawn <= most),
      {
        measured: `correlation ${shortNumber(same, 3)} with the predictions found here on your folds, of the differences with the truth ${shortNumber(drawn, 2)}`,
        expected: pairs.map(({ least, most }) => `at least ${least}, and at most ${most}`).join('; or '),
      },
    );
  }
  const scores = (judged: Judged) =>
    Array.from({ length: k }, (_, fold) =>
      figureOf(
        metric,
        resampled(
          judged,
          rows.filter((row) => folds[row] === fold),
        ),
      ),
    );
  const [mine, theirs] = [scores(own), scores(found)];
  const differences = summariseFolds(
    mine.map((one, i) => {
      const other = at(theirs, i);
      if (one.value === null) return one;
      return other.value === null ? other : { value: one.value - other.value };
    }),
  );
  if (differences.mean === null)
    return check('refit', 'unsure', 'The named model could not be judged on these folds');
  const spread = Math.max(differences.se ?? 0, summariseSe(theirs) / 2);
  const near = Math.abs(differences.mean) <= WITHIN * spread + 1e-9;
  const beyond = partialCorrelation(s, y, r);
  return refitted(near && beyond <= BEYOND, {
    measured: `${metric.name} ${shortNumber(Math.abs(differences.mean), 3)} from what is found here on your folds`,
    expected: `within ${shortNumber(WITHIN * spread, 3)}`,
  });
}

/**
 * How closely what predictions differ by from out-of-fold ones goes with what those of a model that was fitted to all rows
 * differ by: 1 for predictions of the rows that it was fitted to. Null where the model cannot be fitted.
 */
export function inSampleShare(
  refit: Refit,
  key: AnswerKey,
  predictions: Predictions,
  folds: Int32Array,
  k: number,
): number | null {
  const rows = indices(folds.length);
  try {
    const own = judgeAgainst(key, predictions, rows);
    const [said, outOfFold] = columnsOf(own, refitPredictions(refit, folds, k));
    const whole = judgedBy(
      targetRows(targetOf(refit.table, refit.roles), rows),
      predicted(refit, rows, rows),
    );
    const [, inSample] = columnsOf(own, whole);
    return correlation(difference(said, outOfFold), difference(inSample, outOfFold));
  } catch {
    return null;
  }
}

const refitted = (holds: boolean, more: { measured: string; expected: string }): Check =>
  check(
    'refit',
    holds ? 'holds' : 'fails',
    holds
      ? 'Predictions are those of the named model on these folds'
      : 'Predictions are not those of the named model on these folds',
    more,
  );

const summariseSe = (figures: Parameters<typeof summariseFolds>[0]): number => {
  const over = summariseFolds(figures);
  return over.mean === null ? 0 : (over.se ?? 0);
};

/** The student's numbers, those found here and the truth: for classes a stretch of 0 to 1 for each class. */
function columnsOf(own: Judged, found: Judged): [Float64Array, Float64Array, Float64Array] {
  if (own.kind === 'numbers' || found.kind === 'numbers')
    return [own.data.predicted, found.data.predicted, own.data.truth].map((one) =>
      Float64Array.from(one),
    ) as [Float64Array, Float64Array, Float64Array];
  const { labels, truth, probabilities } = own.data;
  const isFor = (codes: Int32Array, label: number) => Array.from(codes, (code) => (code === label ? 1 : 0));
  const all = labels.map((_, label) => label);
  const chances = probabilities;
  return [
    all.flatMap((label) => (chances ? Array.from(at(chances, label)) : isFor(own.data.predicted, label))),
    // Labels are compared with labels.
    all.flatMap((label) =>
      chances && found.data.probabilities
        ? Array.from(at(found.data.probabilities, label))
        : isFor(found.data.predicted, label),
    ),
    all.flatMap((label) => isFor(truth, label)),
  ].map((one) => Float64Array.from(one)) as [Float64Array, Float64Array, Float64Array];
}

/** Pearson's correlation; 0 where one of them does not vary. */
const correlation = (a: Float64Array, b: Float64Array): number => pearson(a, b) ?? 0;

/** Correlation of a and b given c. */
function partialCorrelation(a: Float64Array, b: Float64Array, c: Float64Array): number {
  const [ab, ac, bc] = [correlation(a, b), correlation(a, c), correlation(b, c)];
  const rest = (1 - ac * ac) * (1 - bc * bc);
  return rest > 1e-12 ? (ab - ac * bc) / Math.sqrt(rest) : 0;
}

const difference = (a: Float64Array, b: Float64Array): Float64Array => a.map((value, i) => value - at(b, i));
