import { rowsFor, type AnswerKey, type Reference } from '../check/judge.js';
import { checkPredictions } from '../check/predictions.js';
import type { Predictions } from '../check/reader.js';
import { exampleHeader } from '../check/rules.js';
import { SieveError } from '../errors.js';
import { heldOutOf } from '../exercise/held-out.js';
import { writeRecords } from '../formats/csv/write.js';
import { checkScheme, firstScheme, marksFor } from '../marking/scheme.js';
import { withDoubt } from '../marking/doubt.js';
import { readsRows } from '../marking/row-readable.js';
import { scoreRows } from '../marking/scored.js';
import { markingMetrics } from '../marking/metrics.js';
import { figureOf } from '../metrics/judged.js';
import { metricNamed } from '../metrics/registry.js';
import { judgedBy, predictRows } from '../models/fitted.js';
import { targetOf, targetRows } from '../models/prepared/target.js';
import { at, counted } from '../numbers.js';
import { answersTo, idleCells } from './answers.js';
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
    return {
      rules,
      key: {
        ...answers,
        groups: held.groups,
        feedback: held.feedback,
        references: question.scheme.doubt === true ? referencesOf(question.metric, material, held.rows) : [],
      },
      example: writeRecords(
        exampleHeader(rules),
        rules.identifiers.map((id) => [id, ...idle]),
      ),
      about: [
        `${counted(held.rows.length, 'held-out row')} with the values of ${material.roles.target} in this version`,
        feedback === 0
          ? 'all of them decide the mark'
          : `${counted(feedback, 'row')} of them for feedback, the others decide the mark`,
      ],
    };
  },
  isPersonal: () => false,
  sheet: (question, rules) => ({
    ...headOf(question),
    table: null,
    fields: [],
    file: { columns: exampleHeader(rules), forms: [], optional: false },
    checked: `A file that names each ${rules.identifier} of the held-out file and gives ${GIVES[rules.needs]}. Checked: every row once, nothing but ${rules.needs}.`,
  }),
  read({ file }, rules) {
    const {
      checks,
      rows,
      predictions: content,
    } = checkPredictions(file?.bytes ?? new Uint8Array(), file?.name ?? 'the file', rules);
    return { checks, rows, content };
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
    return {
      judged: [],
      marks: marksFor(
        scheme,
        final.score.value === null
          ? null
          : withDoubt(scheme, metricNamed(metric), final.score.value, {
              key,
              predictions: content,
              rows: rowsFor(key, 'final'),
            }),
      ),
      scored: {
        metric,
        anchor: scheme.nothing,
        final,
        feedback: rowsFor(key, 'feedback').length > 0 ? score('feedback') : null,
        derivedLabels: content.kind === 'labels' && content.derived,
      },
    };
  },
});

/** What the reference runs predict of the held-out rows. */
function referencesOf(
  metricKey: string,
  { table, roles, references }: Material,
  rows: Int32Array,
): Reference[] {
  const metric = metricNamed(metricKey);
  const target = targetRows(targetOf(table, roles), rows);
  return references.flatMap((fitted) => {
    const judged = judgedBy(target, predictRows(fitted, table, rows));
    const score = figureOf(metric, judged).value;
    if (score === null) return [];
    const predictions: Predictions =
      judged.kind === 'numbers'
        ? { kind: 'numbers', predicted: judged.data.predicted }
        : {
            kind: 'labels',
            predicted: judged.data.predicted,
            probabilities: judged.data.probabilities,
            derived: true,
          };
    return [{ score, predictions }];
  });
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
