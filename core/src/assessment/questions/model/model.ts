import { MODEL_SLIPS, type HandedModel } from './model-slips.js';
import { check, type Check } from '../../../foundation/check.js';
import { SieveError } from '../../../foundation/errors.js';
import { givenRows } from '../../material/held-out.js';
import { firstScheme } from '../../marking/scheme.js';
import { markingMetrics } from '../../marking/metrics.js';
import { metricNamed } from '../../../metrics/registry.js';
import { modelFamilyOf } from '../../../models/registry.js';
import { at, counted } from '../../../foundation/numbers.js';
import { checkPlanned, newPlan } from '../../../data/sentence/sentence.js';
import { featuresOf } from '../../../data/table/roles.js';
import { cellText, selectRows } from '../../../data/table/table.js';
import { rounded } from '../contract/credit.js';
import { headOf, questionKind, slipsIn } from '../contract/kind.js';
import { coefficientCheck, fitCheck, scoreOn, withoutCheck } from './model-checks.js';
import type { ModelReport, ModelRun } from '../contract/model-run.js';
import { answersOn, commonest, referenceCoefficients } from './model-key.js';
import { foundOtherwise } from './found-otherwise.js';
import { MODEL_SENTENCE, modelValues } from './model-sentence.js';
import type { ModelQuestion, ModelKey, ModelRules } from './question.js';
import { furtherFrom } from '../scored/further.js';
import { furtherSaid, scheduledMarks, scheduledRules } from '../scored/scheduled.js';
import { checkScored, markScored, predictionsBy, scoredKey } from '../scored/scored-question.js';

/** Training rows that are shown with what a model says of them. */
const EXAMPLES = 5;

const GIVES = { labels: 'labels', probabilities: 'probabilities', numbers: 'numbers' } as const;
const TITLES = { onnx: 'ONNX (.onnx)', pmml: 'PMML (.pmml)', coefficients: 'a table of coefficients (.csv)' };

/** A model that ran on all rows that it is judged by. */
type Ran = ModelRun & {
  readonly report: NonNullable<ModelRun['report']>;
  readonly training: NonNullable<ModelRun['training']>;
  readonly heldOut: NonNullable<ModelRun['heldOut']>;
};

const hasRun = (run: ModelRun): run is Ran =>
  run.report !== null && run.training !== null && run.heldOut !== null;

export const model = questionKind<ModelQuestion, ModelRules, ModelKey, Ran>({
  key: 'model',
  title: 'a model',
  about:
    'A model in an open format: ONNX, PMML or a table of coefficients. It is run here on the training rows and on held-out rows that its student never had: its metric on the final rows is marked by the line through the named points, and its training and held-out scores are compared.',
  sentence: MODEL_SENTENCE,
  markedBy: 'score',
  plausibility: [],
  isRun: true,
  isShared: false,
  from: (head, body) => ({
    ...head,
    kind: 'model',
    metric: body.text('metric'),
    scheme: body.scheme('scheme'),
    ...furtherFrom(body),
    values: body.values('values'),
  }),
  givesHeldOut: (question) => modelValues(question).features === 'given',
  begin(id, subject) {
    const { task } = subject.roles;
    const metric = task === 'multiclass' ? metricNamed('accuracy') : at(markingMetrics(task), 0);
    return {
      id,
      kind: 'model',
      title: 'Hand in your model',
      text: `Fit a model of **${subject.roles.target}** on the training rows, and hand in the model itself.`,
      metric: metric.key,
      scheme: firstScheme(metric, 1),
      values: {
        ...newPlan(MODEL_SENTENCE, subject.columns).values,
        link: task === 'binary' ? 'logit' : 'identity',
      },
    };
  },
  check(question, subject) {
    checkScored(question, subject);
    const columns = featuresOf(subject, subject.roles);
    checkPlanned(MODEL_SENTENCE, { kind: 'model', values: question.values }, columns);
    const { link, takes, without } = modelValues(question);
    const readsTables = takes === 'any' || takes === 'coefficients';
    const { task } = subject.roles;
    if (takes === 'coefficients' && task === 'multiclass')
      throw new SieveError('plan-value', 'A table of coefficients predicts two classes, or a number.', {
        field: 'takes',
      });
    if (readsTables && (link === 'logit') !== (task === 'binary') && task !== 'multiclass')
      throw new SieveError(
        'plan-value',
        task === 'binary'
          ? 'Of two classes the terms of a table sum to the log-odds.'
          : 'Of a number the terms of a table sum to the prediction, or to its logarithm.',
        { field: 'link' },
      );
    if (without.length >= columns.length)
      throw new SieveError('plan-value', 'Leave a column that may be used.', { field: 'without' });
  },
  usesRuns: (question) => {
    const { overfitted, coefficients } = modelValues(question);
    return question.scheme.doubt === true || overfitted < 100 || coefficients === 'compared';
  },
  make(question, material) {
    const { table, roles } = material;
    const { takes, link, without, overfitted, coefficients } = modelValues(question);
    const { held, key, about } = scoredKey(question, material);
    const usable = featuresOf(table, roles).filter(({ name }) => !without.includes(name));
    const names = usable.map(({ name }) => name);
    const given = givenRows(material);
    const training = selectRows(table, given.rows, names);
    const references = material.references.map((fitted) => ({
      name: modelFamilyOf(fitted.model).title,
      training: predictionsBy(fitted, material, given.rows),
      heldOut: predictionsBy(fitted, material, held.rows),
    }));
    if (overfitted < 100 && references.length === 0)
      throw new SieveError(
        'no-reference',
        'Overfitting is shown by a simpler model that does better on the held-out rows: make a run of the split a reference, or let an overfitted model earn all marks.',
        { field: 'overfitted' },
      );
    const compared = coefficients === 'compared' ? referenceCoefficients(material) : null;
    const figures = scheduledRules(question);
    const rules: ModelRules = {
      task: key.task,
      labels: key.labels,
      positive: key.positive,
      ...figures,
      takes,
      link,
      columns: usable.map(({ name, kind }) => ({ name, kind })),
      ...{ target: roles.target, identifier: roles.identifier },
      forbidden: [roles.target, roles.identifier, roles.weight, ...without].filter((name) => name !== null),
      examples: Array.from({ length: Math.min(EXAMPLES, training.rowCount) }, (_, row) =>
        training.columns.map((column) => cellText(column, row)),
      ),
      says: `it loads; its inputs are columns that it may use; it runs within 20 seconds and 512 MB; two runs agree; it gives ${GIVES[figures.needs]}; its training and held-out scores are compared${overfitted < 100 ? `; an overfitted model earns at most ${overfitted} % of the marks` : ''}`,
    };
    return {
      rules,
      key: {
        ...key,
        features: selectRows(table, held.rows, names),
        training: { features: training, answers: answersOn(material, given.rows) },
        without: commonest(material, given.rows),
        references,
        coefficients: compared,
      },
      example: null,
      about: [
        ...about,
        references.length === 0
          ? 'no reference run, so that overfitting is not judged'
          : `called overfitted only where one of ${counted(references.length, 'reference run')} fits the training rows less closely and does better on the held-out rows beyond chance`,
        ...(compared ? [`${counted(compared.length, 'coefficient')} of the reference run are compared`] : []),
      ],
    };
  },
  isPersonal: () => false,
  sheet: (question, rules) => ({
    ...headOf(question),
    table: null,
    fields: [],
    file: {
      columns: [],
      forms: rules.takes === 'any' ? Object.values(TITLES) : [TITLES[rules.takes]],
      optional: false,
    },
    checked: `A model of up to ${rules.columns.length} columns: ${rules.columns.map(({ name }) => name).join(', ')}. Checked: ${rules.says}.${furtherSaid(rules.further)}`,
  }),
  read({ run = null }) {
    if (!run)
      return {
        checks: [check('runs', 'unsure', 'The model was not run yet.')],
        rows: null,
        content: null,
      };
    return { checks: run.checks, rows: null, content: hasRun(run) ? run : null };
  },
  given: () => null,
  mark(question, content, _, key, marking) {
    const { report, training, heldOut } = content;
    const trainingScore = training.predictions
      ? scoreOn(question.metric, key.training.answers, training.predictions)
      : null;
    const model = {
      report,
      training: { metric: question.metric, rows: key.training.features.rowCount, score: trainingScore },
    };
    if (!heldOut.predictions)
      return {
        judged: [
          { check: withoutCheck(heldOut, modelValues(question).features === 'given'), marks: 0, outOf: 0 },
        ],
        marks: 0,
        standing: 0,
        scored: null,
        model,
      };
    const marked = markScored(question, heldOut.predictions, key, {
      ...marking,
      before: marking.before?.heldOut.predictions ?? null,
    });
    const { overfitted } = modelValues(question);
    const fit = fitCheck(question.metric, training.predictions, heldOut.predictions, key);
    const isLimited = fit.outcome === 'fails' && overfitted < 100;
    const most = rounded((scheduledMarks(question) * overfitted) / 100);
    const missing = heldOut.without.includes(1)
      ? [withoutCheck(heldOut, modelValues(question).features === 'given')]
      : [];
    const checks: Check[] = [
      ...missing,
      fit,
      ...(key.coefficients ? [coefficientCheck(report, key.coefficients, key.positive)] : []),
    ];
    return {
      ...marked,
      judged: [...marked.judged, ...checks.map((one) => ({ check: one, marks: 0, outOf: 0 }))],
      marks: isLimited ? Math.min(marked.marks, most) : marked.marks,
      model,
    };
  },
  slips(question, { report, training, otherwise }, rules, key, _, fails) {
    const { better, range } = metricNamed(question.metric);
    const isMemorised =
      fails.includes('fit') &&
      training.predictions !== null &&
      scoreOn(question.metric, key.training.answers, training.predictions) ===
        range[better === 'higher' ? 1 : 0];
    const found = training.predictions
      ? foundOtherwise(training.predictions, otherwise, key.training.answers)
      : null;
    return slipsIn(MODEL_SLIPS, { ...inputsOf(report, rules), otherwise: found, isMemorised });
  },
  unreadSlips: ({ run }, rules) =>
    run?.report
      ? slipsIn(MODEL_SLIPS, { ...inputsOf(run.report, rules), otherwise: null, isMemorised: false })
      : [],
});

/** The columns that a model takes, beside those that it may not. */
const inputsOf = (
  { inputs }: ModelReport,
  { forbidden, target, identifier = null }: ModelRules,
): Omit<HandedModel, 'isMemorised' | 'otherwise'> => ({
  inputs: inputs.flatMap(({ name, column }) =>
    column === null || column === name ? [name] : [name, column],
  ),
  ...{ forbidden, target: target ?? null, identifier },
});
