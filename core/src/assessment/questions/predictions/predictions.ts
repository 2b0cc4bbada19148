import { PREDICTION_SLIPS } from './prediction-slips.js';
import { unreadFile, UNREAD_PREDICTION_SLIPS } from './unread-predictions.js';
import type { AnswerKey } from '../../files/judge.js';
import { check } from '../../../foundation/check.js';
import { checkPredictions } from '../../files/predictions.js';
import type { Predictions } from '../../files/reader.js';
import { exampleHeader } from '../../files/rules.js';
import { writeRecords } from '../../../data/formats/csv/write.js';
import { firstScheme } from '../../marking/scheme.js';
import { markingMetrics } from '../../marking/metrics.js';
import { metricNamed } from '../../../metrics/registry.js';
import { at } from '../../../foundation/numbers.js';
import { idleCells } from '../../material/answers.js';
import { rowsOfPart } from '../../../splitting/parts/parts.js';
import { varies } from '../folds/fold-figures.js';
import { headOf, questionKind, slipsIn } from '../contract/kind.js';
import type { PredictionsQuestion, PredictionsRules } from './question.js';
import { furtherFrom } from '../scored/further.js';
import { furtherSaid, scheduledRules } from '../scored/scheduled.js';
import { checkScored, markScored, scoredKey } from '../scored/scored-question.js';

/** What a file gives for each row, by what the metric needs. */
const GIVES = { labels: 'a label', probabilities: 'probabilities', numbers: 'a number' } as const;

export const predictions = questionKind<PredictionsQuestion, PredictionsRules, AnswerKey, Predictions>({
  key: 'predictions',
  title: 'predictions',
  about:
    'A file that names each held-out row and gives a label, a number or probabilities. It is checked row by row, and its metric on the final rows is marked by the line through the named points.',
  sentence: null,
  markedBy: 'score',
  plausibility: [],
  isRun: false,
  isShared: false,
  from: (head, body) => ({
    ...head,
    kind: 'predictions',
    metric: body.text('metric'),
    scheme: body.scheme('scheme'),
    ...furtherFrom(body),
  }),
  givesHeldOut: () => true,
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
  check: checkScored,
  given: (content, { identifiers, labels }) => ({
    names: identifiers,
    text: (place) => predictionText(content, labels, place),
  }),
  usesRuns: ({ scheme }) => scheme.doubt === true,
  make(question, material) {
    const { held, key, about } = scoredKey(question, material);
    const rules: PredictionsRules = {
      identifier: held.identifier,
      identifiers: held.identifiers,
      task: key.task,
      labels: key.labels,
      positive: key.positive,
      ...scheduledRules(question),
      trainingRows: rowsOfPart(material.parts, 0).length,
    };
    const idle = idleCells(rules, material);
    return {
      rules,
      key,
      example: writeRecords(
        exampleHeader(rules),
        rules.identifiers.map((id) => [id, ...idle]),
      ),
      about,
    };
  },
  isPersonal: () => false,
  sheet: (question, rules) => ({
    ...headOf(question),
    table: null,
    fields: [],
    file: { columns: exampleHeader(rules), forms: [], optional: false },
    checked: `A file that names each ${rules.identifier} of the held-out file and gives ${GIVES[rules.needs]}. Checked: every row once, nothing but ${rules.needs}. What a constant or random prediction reaches earns no marks.${furtherSaid(rules.further)}`,
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
  mark: (question, content, _, key, marking) => markScored(question, content, key, marking),
  slips: (_question, predictions, { identifiers }, key) =>
    slipsIn(PREDICTION_SLIPS, { predictions, key, identifiers }),
  unreadSlips({ file }, rules) {
    const unread = file && unreadFile(file.bytes, file.name, rules);
    return unread ? slipsIn(UNREAD_PREDICTION_SLIPS, unread) : [];
  },
});

/** What is predicted of a row: a number, or its label with the probabilities that were given. */
function predictionText(content: Predictions, labels: readonly string[], place: number): string {
  // As many digits as distinguish doubles that were typed.
  const number = (value: number) => String(Number(value.toPrecision(12)));
  if (content.kind === 'numbers') return number(at(content.predicted, place));
  const label = at(labels, at(content.predicted, place));
  if (!content.probabilities) return label;
  const shares = content.probabilities.map((of, i) => `${at(labels, i)} ${number(at(of, place))}`);
  return shares.join(', ');
}
