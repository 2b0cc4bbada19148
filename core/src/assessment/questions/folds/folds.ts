import { FOLDS_SLIPS } from '../assignments/assignment-slips.js';
import { rowCells, UNREAD_FOLDS_SLIPS } from '../assignments/unread-rows.js';
import { marksForChecks, unjudgedWords, WORK } from '../contract/credit.js';
import { allHold } from '../../../foundation/check.js';
import type { AnswerKey } from '../../files/judge.js';
import { checkPredictions } from '../../files/predictions.js';
import type { Predictions } from '../../files/reader.js';
import { exampleHeader, type PredictionRules } from '../../files/rules.js';
import { readRowsFile } from '../../files/rows-file.js';
import { SieveError } from '../../../foundation/errors.js';
import { givenRows } from '../../material/held-out.js';
import { writeRecords } from '../../../data/formats/csv/write.js';
import { markingMetrics } from '../../marking/metrics.js';
import { metricNamed } from '../../../metrics/registry.js';
import { modelWords } from '../../../models/settings.js';
import { at, count, counted } from '../../../foundation/numbers.js';
import { checkPlanned, newPlan } from '../../../data/sentence/sentence.js';
import { featuresOf } from '../../../data/table/roles.js';
import { selectRows } from '../../../data/table/table.js';
import { answersTo, idleCells } from '../../material/answers.js';
import { NO_BOUNDS, strataWords } from '../assignments/assignment-checks.js';
import { honestRate, rateWords } from '../assignments/honest-rate.js';
import { assignmentFaults } from '../assignments/assignment-work.js';
import { typedField } from '../contract/fields.js';
import { figureChecks } from './fold-figures.js';
import { FOLDS_SENTENCE, foldsValues } from './folds-sentence.js';
import { headOf, checkMarks, givenColumns, questionKind, slipsIn } from '../contract/kind.js';
import { ANY, refitOf } from '../refits/refit-question.js';
import type { FoldsQuestion, FoldsRules } from './question.js';
import { rowsKeyOf } from '../assignments/rows-key.js';
import type { RowsKey } from '../assignments/key.js';
import { SHARES_WITHIN, foldNames, checksOf, referencesOf } from './fold-checks.js';
import { IN_SAMPLE_SLIP } from './in-sample-slip.js';
import { foldCell, REPORTED, type FoldsContent } from './folds-content.js';

const OF = 'file of training rows';

/** What fitting a model for every submission may cost: folds, and training rows. */
const MOST_REFITS = 20;
const MOST_REFIT_ROWS = 20_000;

export const folds = questionKind<FoldsQuestion, FoldsRules, RowsKey, FoldsContent>({
  key: 'folds',
  title: 'folds',
  about:
    'A file that names the fold of each training row, from 1; with out-of-fold predictions where they are asked for, and the mean and standard error that the student found. Checked: a partition into k folds, sizes, shares, whole groups; that the reported figures are those of the predictions, and that the predictions can have been made out of fold.',
  sentence: FOLDS_SENTENCE,
  markedBy: 'work',
  plausibility: [WORK, 'refit'],
  isRun: false,
  isShared: false,
  from: (head, body) => ({
    ...head,
    kind: 'folds',
    marks: body.number('marks', 0),
    values: body.values('values'),
  }),
  givesHeldOut: () => false,
  begin: (id, { columns, roles }) => ({
    id,
    kind: 'folds',
    title: 'The folds you used',
    text: 'Assign the training rows to folds and hand in which row is in which.',
    marks: 4,
    values: {
      ...newPlan(FOLDS_SENTENCE, columns).values,
      stratify: roles.task === 'regression' ? '' : roles.target,
      group: roles.group ?? '',
      metric: at(markingMetrics(roles.task), roles.task === 'multiclass' ? 1 : 0).key,
      family: roles.task === 'regression' ? 'linear' : 'logistic',
    },
  }),
  check(question, subject) {
    const { roles } = subject;
    checkMarks(question.marks);
    checkPlanned(FOLDS_SENTENCE, { kind: 'folds', values: foldsValues(question) }, givenColumns(subject));
    const { k, reports, metric, family, settings } = foldsValues(question);
    if (reports === 'predictions' && refitOf({ family, settings }, subject) && k > MOST_REFITS)
      throw new SieveError(
        'folds',
        `A model is compared in at most ${MOST_REFITS} folds, since it is fitted in each of them for every submission.`,
        { field: 'k' },
      );
    if (reports === 'predictions' && !metricNamed(metric).tasks.includes(roles.task))
      throw new SieveError('metric', `${metricNamed(metric).name} does not judge this task.`, {
        field: 'metric',
      });
  },
  given: ({ folds: assigned }, { identifiers }) => ({
    names: identifiers,
    text: (place) => `fold ${at(assigned, place) + 1}`,
  }),
  // Runs are evidence for staff, and mark nothing.
  usesRuns: () => false,
  make(question, material) {
    const values = foldsValues(question);
    const { identifier, identifiers, rows } = givenRows(material);
    if (rows.length < values.k)
      throw new SieveError('folds', `${counted(rows.length, 'row')} cannot make ${values.k} folds.`, {
        field: 'k',
      });
    const asksFor = values.reports === 'predictions';
    if (asksFor && values.family !== ANY && rows.length > MOST_REFIT_ROWS)
      throw new SieveError(
        'folds',
        `A model is compared on at most ${count(MOST_REFIT_ROWS)} training rows, since it is fitted for every submission; these are ${count(rows.length)}.`,
        { field: 'family' },
      );
    const truth: AnswerKey | null = asksFor
      ? { ...answersTo(material, rows), groups: null, feedback: new Uint8Array(rows.length) }
      : null;
    const predictions: PredictionRules | null = truth && {
      identifier,
      identifiers,
      task: material.roles.task,
      labels: truth.labels,
      positive: truth.positive,
      needs: metricNamed(values.metric).needs,
    };
    const shares = new Array<number>(values.k).fill(1 / values.k);
    const { key: rowsKey, plan } = rowsKeyOf(material, {
      ...values,
      time: '',
      together: false,
      shares,
      isFolds: true,
    });
    const bounds = rowsKey.bounds ?? NO_BOUNDS;
    const model = asksFor ? refitOf(values, material) : null;
    const asked = [
      `${values.k} folds whose sizes differ by at most ${counted(bounds.range, 'row')}`,
      rowsKey.strata
        ? `equal shares of ${values.stratify} within ${strataWords(SHARES_WITHIN, rowsKey.strata, bounds)}`
        : null,
      values.group === '' ? null : `whole groups of ${values.group}`,
      asksFor
        ? `${metricNamed(values.metric).name} as reported: the mean over the folds, and the standard deviation with ${values.k} − 1 divided by √${values.k}; predictions that are better than always giving the same one`
        : null,
      model
        ? `predictions of ${modelWords(model)} on all features, compared with those found here on your folds`
        : null,
    ].filter((one) => one !== null);
    const rate = honestRate(plan, (assigned) =>
      checksOf(assigned, values.k, rowsKey).every(({ outcome }) => outcome !== 'fails'),
    );
    const columns = [identifier, 'fold', ...(predictions ? exampleHeader(predictions).slice(1) : [])];
    const idle = predictions ? idleCells(predictions, material) : [];
    return {
      rules: {
        identifier,
        identifiers,
        k: values.k,
        predictions,
        metric: asksFor ? values.metric : null,
        says: `${asked.join('; ')}${unjudgedWords(values)}`,
      },
      key: {
        ...rowsKey,
        truth,
        references: referencesOf(material, values),
        refit: model && {
          model,
          roles: material.roles,
          features: featuresOf(material.table, material.roles).map(({ name }) => name),
          table: selectRows(material.table, rows, [
            ...featuresOf(material.table, material.roles).map(({ name }) => name),
            material.roles.target,
          ]),
        },
      },
      example: writeRecords(
        columns,
        identifiers.map((name) => [name, '1', ...idle]),
      ),
      about: [
        `${counted(identifiers.length, 'training row')}, judged by ${asked.join('; ')}`,
        rateWords(rate),
      ],
    };
  },
  isPersonal: () => false,
  sheet: (question, rules) => ({
    ...headOf(question),
    table: null,
    fields: rules.predictions ? REPORTED : [],
    file: {
      columns: [
        rules.identifier,
        'fold',
        ...(rules.predictions ? exampleHeader(rules.predictions).slice(1) : []),
      ],
      forms: [],
      optional: false,
    },
    checked: `A file with the fold of each training row, from 1 to ${rules.k}${rules.predictions ? ', and its out-of-fold prediction' : ''}. Checked: every row once; ${rules.says}.`,
  }),
  read({ file, fields }, rules) {
    const bytes = file?.bytes ?? new Uint8Array();
    const name = file?.name ?? 'the file';
    const assigned = readRowsFile(bytes, name, rules, foldCell(rules.k), OF);
    const checks = [...assigned.checks];
    let predictions: Predictions | null = null;
    if (rules.predictions && assigned.values) {
      const read = checkPredictions(bytes, name, rules.predictions);
      checks.push(...read.checks.filter(({ id }) => id !== 'rows'));
      ({ predictions } = read);
    }
    const typed = rules.predictions ? REPORTED.map((field) => typedField(field, fields)) : [];
    checks.push(...typed.flatMap((one) => ('failed' in one ? [one.failed] : [])));
    const [mean = null, se = null] = typed.map((one) => ('failed' in one ? null : one.typed));
    const content =
      assigned.values && allHold(checks) ? { folds: assigned.values, predictions, mean, se } : null;
    return { checks, rows: assigned.rows, content };
  },
  mark(question, { folds: assigned, predictions, mean, se }, rules, key) {
    const values = foldsValues(question);
    const { k } = values;
    const asked = foldNames(k).map((name) => ({ name, share: 1 / k }));
    const figures =
      predictions && key.truth && rules.metric !== null
        ? figureChecks(assigned, predictions, key, { k, metric: rules.metric, mean, se })
        : { checks: [], faults: [] };
    return marksForChecks([...checksOf(assigned, k, key), ...figures.checks], question.marks, values, [
      ...assignmentFaults(assigned, asked, key, 'fold'),
      ...figures.faults,
    ]);
  },
  slips(question, { folds: assigned, predictions }, { identifiers }, key, _, fails) {
    const { k } = foldsValues(question);
    const parts = foldNames(k).map((name) => ({ name, share: 1 / k }));
    return [
      ...slipsIn(FOLDS_SLIPS, { assigned, parts, key, identifiers, fails }),
      ...slipsIn([IN_SAMPLE_SLIP], { folds: assigned, k, predictions, key, fails }),
    ];
  },
  unreadSlips({ file }, rules) {
    const cells = file && rowCells(file.bytes, file.name, rules, 'fold');
    return cells ? slipsIn(UNREAD_FOLDS_SLIPS, cells) : [];
  },
});
