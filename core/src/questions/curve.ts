import type { Check } from '../check/check.js';
import { SieveError } from '../errors.js';
import { writeRecords } from '../formats/csv/write.js';
import { at, counted } from '../numbers.js';
import type { ValuesOf } from '../sentence/parameter.js';
import { checkPlanned, newPlan, valuesOf, type SentenceKind } from '../sentence/sentence.js';
import { credit, marksForChecks } from './credit.js';
import {
  choiceOf,
  chosenCheck,
  endOf,
  FITS,
  inMeasure,
  namedCheck,
  runCheck,
  shapeCheck,
} from './curve-checks.js';
import { columnsOf, readCurve, type CurveFigures } from './curve-file.js';
import { chosenField } from './fields.js';
import { headOf, checkMarks, questionKind } from './kind.js';
import type { CurveQuestion, Field } from './question.js';
import type { CurveKey, CurveRules } from './rules.js';

const PARAMETERS = {
  setting: { type: 'text', label: 'name of the setting', start: 'depth' },
  settings: { type: 'texts', label: 'settings, from simple to complex' },
  measure: {
    type: 'choice',
    label: 'what is measured',
    choices: [
      { value: 'error', text: 'errors, of which lower is better' },
      { value: 'score', text: 'scores, of which higher is better' },
    ],
  },
  rule: {
    type: 'choice',
    label: 'rule of choice',
    choices: [
      { value: 'best', text: 'the best' },
      { value: 'one-se', text: 'the simplest within one standard error of the best' },
    ],
  },
  within: { type: 'number', label: 'distance from the run', min: 0, start: 0.05 },
  credit,
} as const;

export const CURVE_SENTENCE: SentenceKind<typeof PARAMETERS> = {
  key: 'curve',
  title: 'a curve',
  about: 'Which settings are tried, what is measured of them, and by which rule one is chosen.',
  parameters: PARAMETERS,
  sentence: () =>
    'Training and validation by {setting}, from simple to complex {settings}, as {measure}; chosen is {rule}; within {within} of the run; {credit}.',
};

type Values = ValuesOf<typeof PARAMETERS>;
const readValues = ({ values }: Pick<CurveQuestion, 'values'>): Values => valuesOf(CURVE_SENTENCE, values);

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
    'A table of settings with training and validation figures, the setting chosen, and what the model is at both ends. Checked: every setting once; that training improves with complexity; the choice by the rule, of the student’s own figures; under- and overfitting named as the figures say; and, where a run is named, that validation figures are near the run’s.',
  begin: (id, { columns }) => ({
    id,
    kind: 'curve',
    title: 'The depth you chose',
    text: 'Fit a tree of each depth, and hand in its error on the rows it learned from and over the folds.',
    marks: 4,
    run: null,
    values: { ...newPlan(CURVE_SENTENCE, columns).values, settings: ['1', '2', '3', '4', '6', '8', '12'] },
  }),
  check(question, { columns }) {
    checkMarks(question.marks);
    checkPlanned(CURVE_SENTENCE, { kind: 'curve', values: question.values }, columns);
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
  make(question, { curves }) {
    const { setting, settings, rule, measure } = readValues(question);
    const run = question.run === null ? null : (curves[question.run] ?? null);
    if (question.run !== null && !run)
      throw new SieveError('no-curve', 'The run of the curve is not there any more, or tried no settings.', {
        field: 'run',
      });
    const own = run && inMeasure(run, measure);
    const rules: CurveRules = {
      setting,
      settings,
      needsErrors: rule === 'one-se',
      says: `training improves with complexity; chosen by the rule; under- and overfitting named as the figures say${own ? '; validation near what such a model gives' : ''}`,
    };
    const known =
      own?.points.filter(({ setting: one, mean }) => mean !== null && settings.includes(one)).length ?? 0;
    return {
      rules,
      key: { curve: own },
      example: writeRecords(
        columnsOf(rules),
        settings.map((value) => [value, '0.5', '0.5', ...(rules.needsErrors ? ['0.1'] : [])]),
      ),
      about: own
        ? [`${counted(known, 'setting')} of the run are compared by ${own.metric}`]
        : ['judged by the student’s own figures alone'],
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
    const values = readValues(question);
    // As losses: lower is better.
    const sign = values.measure === 'error' ? 1 : -1;
    const training = content.training.map((one) => sign * one);
    const validation = content.validation.map((one) => sign * one);
    const choice = choiceOf(validation, content.errors);
    const checks: Check[] = [
      shapeCheck(training),
      chosenCheck(content.chosen, choice, values.rule, rules),
      namedCheck('simplest', content.simplest, endOf(0, training, validation, choice.best), rules, 0),
      namedCheck(
        'complex',
        content.complex,
        endOf(validation.length - 1, training, validation, choice.best),
        rules,
        rules.settings.length - 1,
      ),
    ];
    if (key.curve) checks.push(runCheck(content.validation, key.curve, rules, values.within));
    return marksForChecks(checks, question.marks, values.credit);
  },
});
