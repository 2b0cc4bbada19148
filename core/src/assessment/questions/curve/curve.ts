import { marksForChecks, WORK } from '../contract/credit.js';
import type { Check } from '../../../foundation/check.js';
import { CURVE_SLIPS } from './curve-slips.js';
import { SieveError } from '../../../foundation/errors.js';
import { writeRecords } from '../../../data/formats/csv/write.js';
import { metricNamed } from '../../../metrics/registry.js';
import { modelFamilyOf } from '../../../models/registry.js';
import { at, counted } from '../../../foundation/numbers.js';
import { checkPlanned, newPlan } from '../../../data/sentence/sentence.js';
import { choiceOf, chosenCheck, endOf, FITS, namedCheck, shapeCheck, stepOf } from './curve-checks.js';
import { curveFaults, inMeasure, runCheck } from './run-checks.js';
import { curveOf, foldWords } from './curve-refit.js';
import { columnsOf, readCurve, type CurveFigures } from './curve-file.js';
import { chosenField } from '../contract/fields.js';
import { headOf, checkMarks, questionKind, slipsIn } from '../contract/kind.js';
import type { CurveQuestion, CurveKey, CurveRules } from './question.js';
import type { Field } from '../contract/answer.js';
import { COMPARED_FAMILIES } from '../../generators/compared-families.js';
import { RUN, CURVE_SENTENCE, readValues } from './sentence.js';

const fieldsOf = ({ setting, settings }: CurveRules): Field[] => [
  { key: 'chosen', label: `${setting} chosen`, choices: settings.map((value) => ({ value, text: value })) },
  { key: 'simplest', label: `at ${setting} ${settings[0] ?? ''} the model is`, choices: FITS },
  { key: 'complex', label: `at ${setting} ${settings.at(-1) ?? ''} the model is`, choices: FITS },
];

/** What a student hands in: figures by setting in the order asked for, the choice, and what was said of both ends. */
interface CurveContent extends CurveFigures {
  readonly chosen: number;
  readonly simplest: string;
  readonly complex: string;
}

export const curve = questionKind<CurveQuestion, CurveRules, CurveKey, CurveContent>({
  key: 'curve',
  title: 'a curve',
  about:
    'A table of settings with training and validation figures, the setting chosen, and what the model is at both ends. Checked: every setting once; that training improves with complexity; the choice by the rule, of the student’s own figures; under- and overfitting named as the figures show; and that figures are near those of a reference run, or of the same model computed here.',
  sentence: CURVE_SENTENCE,
  markedBy: 'work',
  plausibility: [WORK, 'refit', 'run', 'shape'],
  isRun: false,
  isShared: false,
  from: (head, body) => ({
    ...head,
    kind: 'curve',
    marks: body.number('marks', 0),
    values: body.values('values'),
    run: body.has('run') ? body.text('run') : null,
  }),
  givesHeldOut: () => false,
  begin: (id, { columns }) => ({
    id,
    kind: 'curve',
    title: 'The depth you chose',
    text: 'Fit a decision tree of each depth, and hand in its error on the rows that it is trained on and over the folds.',
    marks: 4,
    run: null,
    values: {
      ...newPlan(CURVE_SENTENCE, columns).values,
      settings: ['1', '2', '3', '4', '6', '8', '12'],
      family: 'tree',
    },
  }),
  check(question, { columns }) {
    checkMarks(question.marks);
    checkPlanned(CURVE_SENTENCE, { kind: 'curve', values: readValues(question) }, columns);
    const { settings } = readValues(question);
    if (settings.length < 3 || new Set(settings).size < settings.length)
      throw new SieveError('plan-value', 'A curve takes three settings or more, each once.', {
        field: 'settings',
      });
  },
  given: ({ training, validation }, { settings }) => ({
    names: settings,
    text: (place) => `training ${at(training, place)}, validation ${at(validation, place)}`,
  }),
  usesRuns: ({ run }) => run !== null,
  make(question, material) {
    const values = readValues(question);
    const { setting, settings, rule, measure, family } = values;
    const run = question.run === null ? null : (material.curves[question.run] ?? null);
    if (question.run !== null && !run)
      throw new SieveError('no-curve', 'The run of the curve is not there any more, or tried no settings.', {
        field: 'run',
      });
    if (run?.family !== undefined && !COMPARED_FAMILIES.some(({ key }) => key === run.family))
      throw new SieveError(
        'no-curve',
        `How far honest curves of ${modelFamilyOf({ kind: run.family }).title} are apart is not measured yet: name the run of another family, or a model that is computed here.`,
        { field: 'run' },
      );
    if (!run && family === RUN)
      throw new SieveError(
        'no-curve',
        'Name a reference run, or a model that is computed here: without either an invented curve would earn marks.',
        { field: 'run' },
      );
    const own = inMeasure(run ?? curveOf(material, values), measure);
    const known = own.points.filter(
      ({ setting: one, mean }) => mean !== null && settings.includes(one),
    ).length;
    if (known < 2)
      throw new SieveError(
        'no-curve',
        `${counted(known, 'setting')} of the question ${known === 1 ? 'is' : 'are'} in the run: two at least are compared.`,
        { field: 'run' },
      );
    const what = run
      ? ''
      : ` (${modelFamilyOf({ kind: family }).title} on all features, ${foldWords(material.roles)})`;
    const rules: CurveRules = {
      setting,
      settings,
      needsErrors: rule === 'one-se',
      says: `training improves with complexity; chosen by the rule, among equal figures any; under- and overfitting named as the figures show, within one standard error either name or neither; figures of ${measureWords(own.metric, measure)} within three standard errors of what such a model gives${what}`,
    };
    return {
      rules,
      key: { curve: own },
      example: writeRecords(
        columnsOf(rules),
        settings.map((value) => [value, '0.5', '0.5', ...(rules.needsErrors ? ['0.1'] : [])]),
      ),
      about: [
        `${counted(known, 'setting')} ${run ? 'of the run' : `of ${modelFamilyOf({ kind: family }).title}, computed ${foldWords(material.roles)},`} are compared by ${measureWords(own.metric, measure)}`,
      ],
    };
  },
  isPersonal: () => false,
  sheet: (question, rules) => ({
    ...headOf(question),
    table: null,
    fields: fieldsOf(rules),
    file: { columns: columnsOf(rules), forms: [], optional: false },
    checked: `A table of ${rules.settings.join(', ')}, a row each. Checked: every ${rules.setting} once; ${rules.says}.`,
  }),
  read({ file, fields }, rules) {
    const read = readCurve(file?.bytes ?? new Uint8Array(), file?.name ?? 'the file', rules);
    const [chosen, simplest, complex] = fieldsOf(rules).map((field) => chosenField(field, fields));
    const missing = [chosen, simplest, complex].flatMap((one) =>
      one && 'failed' in one ? [one.failed] : [],
    );
    const checks = [...read.checks, ...missing];
    const value = (one: typeof chosen) => (one && 'value' in one ? one.value : '');
    const content =
      read.content && missing.length === 0
        ? {
            ...read.content,
            chosen: rules.settings.indexOf(value(chosen)),
            simplest: value(simplest),
            complex: value(complex),
          }
        : null;
    return { checks, rows: read.rows, content };
  },
  mark(question, content, rules, key) {
    const { checks } = judgeCurve(question, content, rules, key);
    return marksForChecks(
      checks,
      question.marks,
      readValues(question),
      curveFaults(content.training, content.validation, key.curve, rules),
    );
  },
  slips(question, content, rules, key, _, fails) {
    const { training, validation, right } = judgeCurve(question, content, rules, key);
    const isOff = key.curve !== null && fails.includes('run');
    return slipsIn(CURVE_SLIPS, {
      ...{ training, validation, right, fails, settings: rules.settings, chosen: content.chosen },
      named: { simplest: content.simplest, complex: content.complex },
      fitsReversed:
        isOff &&
        runCheck(content.training.toReversed(), content.validation.toReversed(), key.curve, rules).outcome ===
          'holds',
    });
  },
  unreadSlips: () => [],
});

/** A curve as losses (lower is better), what its ends may be called, and its checks. */
function judgeCurve(question: CurveQuestion, content: CurveContent, rules: CurveRules, key: CurveKey) {
  const values = readValues(question);
  const sign = values.measure === 'error' ? 1 : -1;
  const training = content.training.map((one) => sign * one);
  const validation = content.validation.map((one) => sign * one);
  const { best } = choiceOf(validation, content.errors);
  const noise = noiseOf(content.errors, key.curve, best);
  const end = (place: number) => endOf(place, training, validation, best, noise);
  const last = validation.length - 1;
  const right = { simplest: end(0), complex: end(last) };
  const checks: Check[] = [
    shapeCheck(training, noise),
    chosenCheck(
      content.chosen,
      validation,
      content.errors,
      values.rule,
      rules,
      stepOf(content.validation) * (1 + 1e-9),
    ),
    namedCheck('simplest', content.simplest, right.simplest, rules, 0),
    namedCheck('complex', content.complex, right.complex, rules, last),
  ];
  if (key.curve) checks.push(runCheck(content.training, content.validation, key.curve, rules));
  return { checks, training, validation, right };
}

/** "accuracy", or "1 − accuracy" where errors are asked for. */
function measureWords(key: string, measure: 'error' | 'score'): string {
  const { name, better } = metricNamed(key);
  return better === (measure === 'error' ? 'lower' : 'higher') ? name : `1 − ${name}`;
}

/** Standard error of validation figures: the student's own at the best setting, else the run's median; 0 where neither is known. */
function noiseOf(errors: readonly number[] | null, run: CurveKey['curve'], best: number): number {
  if (errors) return at(errors, best);
  const own = (run?.points ?? []).flatMap(({ se }) => (se === null ? [] : [se])).sort((a, b) => a - b);
  return own[own.length >> 1] ?? 0;
}
