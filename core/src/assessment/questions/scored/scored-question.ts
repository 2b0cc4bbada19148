import { rowsFor, judgeAgainst, type AnswerKey } from '../../files/judge.js';
import { check } from '../../../foundation/check.js';
import type { Predictions } from '../../files/reader.js';
import { normalTwoSided } from '../../../foundation/statistics/distributions.js';
import { SieveError } from '../../../foundation/errors.js';
import { heldOutOf, type HeldOut } from '../../material/held-out.js';
import { lineFor } from '../../marking/doubt.js';
import { floorOf, type Floor } from '../../marking/floor.js';
import { readsRows } from '../../marking/row-readable.js';
import { checkScheme, marksFor, type MarkScheme } from '../../marking/scheme.js';
import { scoreRows } from '../../marking/scored.js';
import { standardErrors } from '../../marking/standard-errors.js';
import type { Metric } from '../../../metrics/metric.js';
import { figureOf } from '../../../metrics/judged.js';
import { metricNamed } from '../../../metrics/registry.js';
import { modelFamilyOf } from '../../../models/registry.js';
import { judgedBy, predictRows, type Fitted } from '../../../models/fitted.js';
import { targetOf, targetRows } from '../../../models/prepared/target.js';
import { at, counted, indices, shortNumber } from '../../../foundation/numbers.js';
import { answersTo } from '../../material/answers.js';
import { rounded, WORK } from '../contract/credit.js';
import { varies } from '../folds/fold-figures.js';
import type { Marking, Subject } from '../contract/kind.js';
import type { Material } from '../../material/material.js';
import type { Marked } from '../contract/answer.js';
import { checkFurther } from './further.js';
import { scheduledMarks, type Scheduled } from './scheduled.js';
import { furtherKeys } from './further-key.js';
import { markFurther } from './further-marking.js';

/** @throws SieveError `metric`, `marks` */
export function checkScored({ metric: key, scheme, further }: Scheduled, subject: Subject): void {
  const { roles } = subject;
  const metric = metricNamed(key);
  if (!metric.tasks.includes(roles.task))
    throw new SieveError('metric', `${metric.name} does not judge this task.`, { field: 'metric' });
  checkScheme(scheme, metric);
  checkFurther(further, subject);
}

/** Answers to the held-out rows. */
export interface ScoredKey {
  readonly held: HeldOut;
  readonly key: AnswerKey;
  /** How it came about, as sentences for staff. */
  readonly about: readonly string[];
}

/** The key of a question that is marked by a metric on the final rows. @throws SieveError `no-held-out`, `marks` */
export function scoredKey({ metric: name, scheme, further = [] }: Scheduled, material: Material): ScoredKey {
  const held = heldOutOf(material);
  if (held.rows.length === 0)
    throw new SieveError('no-held-out', 'The split holds no rows out, so there is nothing to predict.', {
      field: 'splitId',
    });
  const feedback = held.feedback.reduce((sum, one) => sum + one, 0);
  const plain: AnswerKey = {
    ...answersTo(material, held.rows),
    groups: held.groups,
    feedback: held.feedback,
  };
  const metric = metricNamed(name);
  const finalRows = rowsFor(plain, 'final');
  const floor = floorOf(metric, plain, finalRows);
  refuseLowLine(scheme, metric, floor.constant);
  const references = material.references.map((fitted) => ({
    title: modelFamilyOf(fitted.model).title,
    predictions: predictionsBy(fitted, material, held.rows),
  }));
  const error = errorOfScore(metric, scheme, plain, finalRows, references);
  const line = lineFor(scheme, metric, floor.random, scheme.doubt === true ? error : 0);
  const others = furtherKeys(further, material, plain, held.rows);
  return {
    held,
    key: {
      ...plain,
      floor: floor.random,
      margin: scheme.doubt === true ? error : 0,
      ...(others.keys.length === 0 ? {} : { further: others.keys }),
    },
    about: [
      `${counted(held.rows.length, 'held-out row')} with the values of ${material.roles.target} in this version`,
      feedback === 0
        ? 'all of them decide the mark'
        : `${counted(feedback, 'row')} of them for feedback, the others decide the mark`,
      ...floorWords(floor, scheme, metric),
      ...references.flatMap((reference) => referenceWords(reference, metric, line, plain, finalRows)),
      noiseWords(scheme, error, finalRows.length),
      ...others.about,
    ],
  };
}

/** Marks predictions of the held-out rows. */
export function markScored(
  question: Scheduled,
  content: Predictions,
  key: AnswerKey,
  { stepped, before }: Marking<Predictions>,
): Marked {
  const { metric, scheme, further = [] } = question;
  const score = (purpose: 'feedback' | 'final') =>
    scoreRows(key, content, rowsFor(key, purpose), {
      metric,
      stepped: purpose === 'feedback' && (stepped || readsRows(metricNamed(metric))),
      anchor: scheme.nothing,
      before,
    });
  const final = score('final');
  const feedback = rowsFor(key, 'feedback').length > 0 ? score('feedback') : null;
  const line = lineFor(scheme, metricNamed(metric), key.floor ?? null, key.margin ?? 0);
  const first = varies(content) ? marksFor(line, final.score.value) : 0;
  const others = markFurther(further, content, key, first / scheme.marks).map((one) =>
    varies(content) ? one : { ...one, marks: 0 },
  );
  const marks = rounded(others.reduce((sum, one) => sum + one.marks, first));
  return {
    judged:
      marks > 0
        ? []
        : [
            {
              check: check(
                WORK,
                'fails',
                varies(content)
                  ? 'The score on the final rows is no better than that of constant or random predictions, or than the point for no marks.'
                  : 'Every row has the same prediction: nothing was fitted.',
              ),
              marks: 0,
              outOf: 0,
            },
          ],
    marks,
    // Without feedback rows nothing but the final rows could decide, so that the last submission counts.
    standing:
      feedback === null
        ? 0
        : rounded((marksFor(scheme, feedback.score.value) * scheduledMarks(question)) / scheme.marks),
    scored: {
      metric,
      anchor: scheme.nothing,
      final,
      feedback,
      line,
      derivedLabels: content.kind === 'labels' && content.derived,
      ...(others.length === 0 ? {} : { first, further: others }),
    },
  };
}

/** What a fitted model says of rows of a table, as predictions that are handed in. */
export function predictionsBy(fitted: Fitted, { table, roles }: Material, rows: Int32Array): Predictions {
  const { data, kind } = judgedBy(targetRows(targetOf(table, roles), rows), predictRows(fitted, table, rows));
  return kind === 'numbers'
    ? { kind, predicted: Float64Array.from(data.predicted) }
    : { kind, predicted: data.predicted, probabilities: data.probabilities, derived: true };
}

/** A reference run, and what it says of the held-out rows. */
interface Reference {
  readonly title: string;
  readonly predictions: Predictions;
}

/** How far a reference run's score on the final rows is from that on all held-out rows, by which the line was set. */
function referenceWords(
  { title, predictions }: Reference,
  metric: Metric,
  line: MarkScheme,
  key: AnswerKey,
  finalRows: Int32Array,
): string[] {
  const scoreOn = (rows: Int32Array) => figureOf(metric, judgeAgainst(key, predictions, rows)).value;
  const all = indices(key.feedback.length);
  const [whole, final] = [scoreOn(all), scoreOn(finalRows)];
  if (whole === null || final === null || finalRows.length === all.length) return [];
  return [
    `the reference run of ${title} has ${metric.name} ${shortNumber(whole, 4)} on all held-out rows and ${shortNumber(final, 4)} on the final rows, which decide: an answer as good gets ${shortNumber(marksFor(line, final), 3)} of ${line.marks} marks`,
  ];
}

/** From where marks begin, as a sentence for staff. */
function floorWords({ random }: Floor, scheme: MarkScheme, metric: Metric): string[] {
  if (random === null) return [];
  const way = metric.better === 'higher' ? 1 : -1;
  const words = `no marks up to ${shortNumber(random)} on the final rows, which the best constant or 1 of 200 random files reaches`;
  return way * (random - scheme.most) < 0
    ? [words]
    : [`${words}; that is beyond ${shortNumber(scheme.most)}: so few rows cannot separate work from luck`];
}

/** @throws SieveError `marks` where a constant file would earn most of the marks */
function refuseLowLine(scheme: MarkScheme, metric: Metric, floor: number | null): void {
  const way = metric.better === 'higher' ? 1 : -1;
  if (floor === null || way * (floor - scheme.most) < 0) return;
  throw new SieveError(
    'marks',
    `A constant prediction reaches ${metric.name} ${shortNumber(floor)} on the final rows, and the line gives ${scheme.mostMarks} marks at ${shortNumber(scheme.most)}. Move the points, or choose a metric for which guessing is worth less.`,
    { field: 'most' },
  );
}

/**
 * Standard error of a score on the final rows: the median of the reference runs, else that of a share at the point for
 * most, or of an error of normal residuals there (common practice).
 */
function errorOfScore(
  metric: Metric,
  scheme: MarkScheme,
  key: AnswerKey,
  rows: Int32Array,
  references: readonly Reference[],
): number {
  const groups = key.groups ? rows.map((row) => at(key.groups ?? rows, row)) : null;
  const errors = references
    .map(({ predictions }) => standardErrors(metric, judgeAgainst(key, predictions, rows), null, groups).own)
    .sort((a, b) => a - b);
  const median = errors[errors.length >> 1];
  if (median !== undefined) return median;
  const [low, high] = metric.range;
  const n = Math.max(1, rows.length);
  return low === 0 && high === 1
    ? Math.sqrt((scheme.most * (1 - scheme.most)) / n)
    : Math.abs(scheme.most) / Math.sqrt(2 * n);
}

/**
 * How often two equally good models get marks that differ by a mark in ten: their scores are taken to differ by one
 * standard error of a score (correlated by a half), normally distributed.
 */
function noiseWords(scheme: MarkScheme, error: number, rows: number): string {
  const slope = scheme.mostMarks / Math.abs(scheme.most - scheme.nothing);
  const differ = (factor: number) => {
    const step = scheme.marks / 10 / slope;
    return error > 0 ? Math.round(100 * normalTwoSided((step / error) * Math.sqrt(factor))) : 0;
  };
  return `two equally good models differ by a tenth of the marks or more in about ${differ(1)} % of cases on ${counted(rows, 'final row')}; on four times as many rows, or with a line half as steep, in ${differ(4)} %`;
}
