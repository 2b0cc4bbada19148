import { judgeAgainst, rowsFor, type AnswerKey } from '../check/judge.js';
import { check } from '../check/check.js';
import { checkPredictions } from '../check/predictions.js';
import type { Predictions } from '../check/reader.js';
import { exampleHeader } from '../check/rules.js';
import { SieveError } from '../errors.js';
import { heldOutOf } from '../exercise/held-out.js';
import { writeRecords } from '../formats/csv/write.js';
import { checkScheme, firstScheme, marksFor, type MarkScheme } from '../marking/scheme.js';
import { lineFor } from '../marking/doubt.js';
import { floorOf, type Floor } from '../marking/floor.js';
import { readsRows } from '../marking/row-readable.js';
import { scoreRows } from '../marking/scored.js';
import { markingMetrics } from '../marking/metrics.js';
import { standardErrors } from '../marking/standard-errors.js';
import type { Metric } from '../metrics/metric.js';
import { normalTwoSided } from '../distributions/distributions.js';
import { metricNamed } from '../metrics/registry.js';
import { judgedBy, predictRows } from '../models/fitted.js';
import { targetOf, targetRows } from '../models/prepared/target.js';
import { at, counted, shortNumber } from '../numbers.js';
import { answersTo, idleCells } from './answers.js';
import { WORK } from './credit.js';
import { varies } from './fold-figures.js';
import { headOf, questionKind, type Material } from './kind.js';
import type { PredictionsQuestion } from './question.js';
import type { PredictionsRules } from './rules.js';

/** What a file gives for each row, by what the metric needs. */
const GIVES = { labels: 'a label', probabilities: 'probabilities', numbers: 'a number' } as const;

export const predictions = questionKind<PredictionsQuestion, PredictionsRules, AnswerKey, Predictions>({
  key: 'predictions',
  title: 'predictions',
  about:
    'A file that names each held-out row and gives a label, a number or probabilities. It is checked row by row, and its metric on the final rows is marked by the line through the named points.',
  begin: (id, { roles }) => {
    const metric = roles.task === 'multiclass' ? metricNamed('accuracy') : at(markingMetrics(roles.task), 0);
    return {
      id,
      kind: 'predictions',
      title: 'Hand in your predictions',
      text: `Predict **${roles.target}** for the held-out rows.`,
      metric: metric.key,
      scheme: firstScheme(metric, 1),
    };
  },
  check({ metric: key, scheme }, { roles }) {
    const metric = metricNamed(key);
    if (!metric.tasks.includes(roles.task))
      throw new SieveError('metric', `${metric.name} does not judge this task.`, { field: 'metric' });
    checkScheme(scheme, metric);
  },
  given: (content, { identifiers, labels }) => ({
    names: identifiers,
    text: (place) => predictionText(content, labels, place),
  }),
  usesRuns: ({ scheme }) => scheme.doubt === true,
  make(question, material) {
    const held = heldOutOf(material);
    if (held.rows.length === 0)
      throw new SieveError('no-held-out', 'The split holds no rows out, so there is nothing to predict.', {
        field: 'splitId',
      });
    const feedback = held.feedback.reduce((sum, one) => sum + one, 0);
    const answers = answersTo(material, held.rows);
    const rules: PredictionsRules = {
      identifier: held.identifier,
      identifiers: held.identifiers,
      task: answers.task,
      labels: answers.labels,
      positive: answers.positive,
      needs: metricNamed(question.metric).needs,
      metric: question.metric,
      scheme: question.scheme,
    };
    const idle = idleCells(rules, material);
    const plain: AnswerKey = { ...answers, groups: held.groups, feedback: held.feedback };
    const metric = metricNamed(question.metric);
    const finalRows = rowsFor(plain, 'final');
    const floor = floorOf(metric, plain, finalRows);
    refuseLowLine(question.scheme, metric, floor.constant);
    const error = errorOfScore(metric, question.scheme, plain, finalRows, material, held.rows);
    const key: AnswerKey = {
      ...plain,
      floor: floor.random,
      margin: question.scheme.doubt === true ? error : 0,
    };
    return {
      rules,
      key,
      example: writeRecords(
        exampleHeader(rules),
        rules.identifiers.map((id) => [id, ...idle]),
      ),
      about: [
        `${counted(held.rows.length, 'held-out row')} with the values of ${material.roles.target} in this version`,
        feedback === 0
          ? 'all of them decide the mark'
          : `${counted(feedback, 'row')} of them for feedback, the others decide the mark`,
        ...floorWords(floor, question.scheme, metric),
        noiseWords(question.scheme, error, finalRows.length),
      ],
    };
  },
  isPersonal: () => false,
  sheet: (question, rules) => ({
    ...headOf(question),
    table: null,
    fields: [],
    file: { columns: exampleHeader(rules), forms: [], optional: false },
    checked: `A file that names each ${rules.identifier} of the held-out file and gives ${GIVES[rules.needs]}. Checked: every row once, nothing but ${rules.needs}. What a constant or random prediction reaches earns no marks.`,
  }),
  read({ file }, rules) {
    const {
      checks,
      rows,
      predictions: content,
    } = checkPredictions(file?.bytes ?? new Uint8Array(), file?.name ?? 'the file', rules);
    return {
      checks:
        content && !varies(content)
          ? [
              ...checks,
              check('varies', 'unsure', 'Every row has the same prediction: such a file earns no marks.'),
            ]
          : checks,
      rows,
      content,
    };
  },
  mark({ metric, scheme }, content, _, key, { stepped, before }) {
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
    const marks = varies(content) ? marksFor(line, final.score.value) : 0;
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
      standing: feedback === null ? 0 : marksFor(scheme, feedback.score.value),
      scored: {
        metric,
        anchor: scheme.nothing,
        final,
        feedback,
        line,
        derivedLabels: content.kind === 'labels' && content.derived,
      },
    };
  },
});

/** From where marks begin, as a sentence for staff. */
function floorWords({ random }: Floor, scheme: MarkScheme, metric: Metric): string[] {
  if (random === null) return [];
  const way = metric.better === 'higher' ? 1 : -1;
  const words = `no marks up to ${shortNumber(random)} on the final rows, which the best constant or 1 of 200 random files reaches`;
  return way * (random - scheme.most) < 0
    ? [words]
    : [`${words}; that is beyond ${shortNumber(scheme.most)}: so few rows cannot show work from luck`];
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
  { table, roles, references }: Material,
  heldOut: Int32Array,
): number {
  const target = targetRows(targetOf(table, roles), heldOut);
  const groups = key.groups ? rows.map((row) => at(key.groups ?? rows, row)) : null;
  const errors = references
    .map((fitted) => {
      const { data, kind } = judgedBy(target, predictRows(fitted, table, heldOut));
      const predictions: Predictions =
        kind === 'numbers'
          ? { kind, predicted: Float64Array.from(data.predicted) }
          : { kind, predicted: data.predicted, probabilities: data.probabilities, derived: true };
      return standardErrors(metric, judgeAgainst(key, predictions, rows), null, groups).own;
    })
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

/** What is predicted of a row: a number, or its label with the probabilities that were given. */
function predictionText(content: Predictions, labels: readonly string[], place: number): string {
  // As many digits as tell doubles that were typed from one another.
  const number = (value: number) => String(Number(value.toPrecision(12)));
  if (content.kind === 'numbers') return number(at(content.predicted, place));
  const label = at(labels, at(content.predicted, place));
  if (!content.probabilities) return label;
  const shares = content.probabilities.map((of, i) => `${at(labels, i)} ${number(at(of, place))}`);
  return shares.join(', ');
}
