import type { Answer, Field } from '../contract/answer.js';
import { allHold, check, type Check } from '../../../foundation/check.js';
import { generate } from '../../generators/generate.js';
import {
  asksNames,
  lostFigure,
  type Asked,
  type GeneratedItem,
  type GeneratorMaterial,
} from '../../generators/generator.js';
import { generatorOf } from '../../generators/registry.js';
import { toleranceKindOf } from '../../generators/tolerance.js';
import { SieveError } from '../../../foundation/errors.js';
import { generatorMaterial } from '../../material/given-tables.js';
import { counted, shortNumber } from '../../../foundation/numbers.js';
import { checkPlanned, newPlan, type Plan } from '../../../data/sentence/sentence.js';
import { marksForChecks, WORK } from '../contract/credit.js';
import { BETWEEN_VALUES, chosenField, chosenValues, NONE, typedField } from '../contract/fields.js';
import { slipsInValues } from './slips-in-values.js';
import { judgeValues, namesText, rangeWords, type Said } from './judge-values.js';
import { headOf, checkMarks, givenColumns, questionKind, type Right } from '../contract/kind.js';
import { NOBODY, type Respondent } from '../../generators/respondent.js';
import {
  askedOnly,
  type ComputedAsked,
  type FigureAsked,
  type ValuesKey,
  type ValuesQuestion,
  type ValuesRules,
} from './question.js';
import { checkSamples, computeSamples, ownSample, sampleWords } from './samples.js';
import { FIGURE, VALUE, valuesIn } from './typed-values.js';

/** What is asked of a student, without the figures. */
const askedOf = ({ figures, computed, samples }: ValuesRules, who: Respondent): ComputedAsked =>
  samples ? ownSample(samples, who) : (computed ?? generate(figures, who));

/** The same with its figures. */
export const keyOf = (figures: Plan, { computed, samples }: ValuesKey, who: Respondent): GeneratedItem =>
  samples ? ownSample(samples, who) : (computed ?? generate(figures, who));

const fieldsOf = (asked: readonly FigureAsked[]): Field[] =>
  asked.map(({ key, name, convention, choices, several }) => ({
    key,
    label: convention == null ? name : `${name} (${convention})`,
    choices: choices
      ? [
          ...choices.map((choice) => ({ value: choice, text: choice })),
          ...(several ? [{ value: NONE, text: 'none of them' }] : []),
        ]
      : null,
    ...(several ? { several } : {}),
  }));

/** @throws SieveError `no-figure` for names that an answer of several could not tell apart */
function checkNames(asked: Asked): void {
  if (!asksNames(asked) || !asked.several) return;
  const stray = asked.choices.find(
    (name) => name.includes(BETWEEN_VALUES) || name !== name.trim() || name === NONE,
  );
  if (stray !== undefined)
    throw new SieveError(
      'no-figure',
      `${asked.name}: “${stray}” cannot stand in a list of names; give the column another name.`,
      { field: 'asked' },
    );
}

/** What is said in a field, or the check that it fails. */
function saidIn(
  field: Field,
  fields: Answer['fields'],
): { readonly said: Said } | { readonly failed: Check } {
  if (field.choices === null) {
    const read = typedField(field, fields);
    return 'failed' in read ? read : { said: read };
  }
  if (field.several) {
    const read = chosenValues(field, fields);
    return 'failed' in read ? read : { said: { chosen: read.values } };
  }
  const read = chosenField(field, fields);
  return 'failed' in read ? read : { said: { chosen: [read.value] } };
}

/** Of which rows a key is, where it is computed from rows. */
const rowsWords = ({ rows, n = '' }: GeneratedItem['given']): string =>
  rows === undefined ? '' : `, of ${rows} (${n})`;

/** What staff read of a key. */
export const keyWords = (asked: Asked): string =>
  asksNames(asked)
    ? `${asked.name}: ${namesText(asked.right)}`
    : `${asked.name} ${shortNumber(asked.figure.value ?? NaN, 6)}${asked.between ? `, accepted: ${rangeWords(asked.between)}` : ''}`;

/** @throws SieveError `placeholder` with the first name in a text that names nothing */
function checkPlaceholders(text: string, given: Readonly<Record<string, string>>): void {
  for (const [, name = ''] of text.matchAll(/\{(\w+)\}/g))
    if (given[name] === undefined)
      throw new SieveError(
        'placeholder',
        `{${name}} is nothing that is drawn; there are ${Object.keys(given)
          .map((one) => `{${one}}`)
          .join(', ')}.`,
        { field: 'text' },
      );
}

/** A text with what was drawn in place of its names. */
export const filledText = (text: string, given: Readonly<Record<string, string>>): string =>
  text.replace(/\{(\w+)\}/g, (whole, name: string) => given[name] ?? whole);

export const values = questionKind<ValuesQuestion, ValuesRules, ValuesKey, ReadonlyMap<string, Said>>({
  key: 'values',
  title: 'values',
  about:
    'Numbers that are typed, pasted or handed in as a file of figure and value. Each student gets a draw of their own, or all compute from the training rows. Each number is right within the tolerance of its key.',
  sentence: null,
  markedBy: 'key',
  plausibility: [],
  isRun: false,
  isShared: false,
  from: (head, body) => ({
    ...head,
    kind: 'values',
    marks: body.number('marks', 0),
    figures: body.plan('figures'),
    tolerance: body.plan('tolerance'),
    ...(body.has('samples') ? { samples: body.number('samples', NaN) } : {}),
  }),
  givesHeldOut: () => false,
  begin: (id, { columns }) => {
    const kind = generatorOf({ kind: 'confusion' });
    return {
      id,
      kind: 'values',
      title: 'Figures of your own',
      text: kind.text,
      marks: 4,
      figures: newPlan(kind, columns),
      tolerance: newPlan(toleranceKindOf({ kind: 'digits' }), columns),
    };
  },
  check({ marks, figures, tolerance, text, samples }, subject) {
    const columns = givenColumns(subject);
    checkMarks(marks);
    const kind = generatorOf(figures);
    checkPlanned(kind, figures, columns);
    checkSamples(samples, kind, figures.values);
    checkPlanned(toleranceKindOf(tolerance), tolerance, columns);
    // What is computed from the data is known when the key is made.
    if (kind.from === 'chance') checkPlaceholders(text, generate(figures, NOBODY).given);
    else kind.check?.(figures.values, columns, subject.roles);
  },
  given: () => null,
  usesRuns: () => false,
  make({ figures, tolerance, text, samples: parts }, material) {
    const kind = generatorOf(figures);
    const compute = (from: GeneratorMaterial): GeneratedItem => {
      if (kind.from !== 'data') throw new TypeError('only what is about data is computed from them');
      const item = kind.compute(figures.values, from);
      checkPlaceholders(text, item.given);
      item.asked.forEach(checkNames);
      const lost = lostFigure(item.asked);
      if (lost !== null) throw new SieveError('no-figure', `No value: ${lost}.`, { field: 'asked' });
      return item;
    };
    const from = kind.from === 'data' ? generatorMaterial(material) : null;
    const samples = from && parts !== undefined ? computeSamples(compute, from, parts) : null;
    const computed = from && samples === null ? compute(from) : null;
    return {
      rules: {
        // Of what is computed students need no plan, in which a typed key stands.
        figures: from ? { kind: figures.kind, values: {} } : figures,
        computed: computed && askedOnly(computed),
        ...(samples ? { samples: samples.map(askedOnly) } : {}),
        says: toleranceKindOf(tolerance).title,
      },
      key: { computed, ...(samples ? { samples } : {}) },
      example: null,
      about: computed
        ? computed.asked.map((one) => `${keyWords(one)}${rowsWords(computed.given)}`)
        : (samples?.flatMap(({ given, asked }, part) =>
            asked.map((one) => `part ${part}: ${keyWords(one)}${rowsWords(given)}`),
          ) ?? [`${kind.title}, drawn for each student; the keys follow from what is drawn`]),
    };
  },
  isPersonal: ({ computed }) => computed === null,
  sheet(question, rules, who) {
    const { given, table, asked } = askedOf(rules, who);
    return {
      ...headOf(question),
      text: `${filledText(question.text, given)}${rules.samples ? `\n\n${sampleWords({ given })}` : ''}`,
      table,
      fields: fieldsOf(asked),
      file: {
        columns: [FIGURE, VALUE],
        forms: [`figures: ${asked.map(({ key }) => key).join(', ')}`],
        optional: true,
      },
      checked: rules.computed
        ? 'Computed from the training rows, the same for everybody.'
        : rules.samples
          ? 'Computed from your own part of the training rows; other students have other parts.'
          : 'These numbers are yours alone; other students get different ones.',
    };
  },
  read(answer, rules, who) {
    const { asked } = askedOf(rules, who);
    const given = answer.file ? valuesIn(answer.file, asked) : { fields: answer.fields, checks: [] };
    const said = new Map<string, Said>();
    const checks: Check[] = [...given.checks];
    for (const field of allHold(given.checks) ? fieldsOf(asked) : []) {
      const read = saidIn(field, given.fields);
      if ('said' in read) said.set(field.key, read.said);
      else checks.push(read.failed);
    }
    const holds = allHold(checks);
    if (holds) checks.push(check('fields', 'holds', `${counted(asked.length, 'answer')}, none missing`));
    return { checks, rows: null, content: holds ? said : null };
  },
  right: ({ figures }, key, who) =>
    Object.fromEntries(
      keyOf(figures, key, who).asked.map((one): [string, Right] => [
        one.key,
        asksNames(one)
          ? { chosen: one.right }
          : { value: one.figure.value ?? NaN, ...(one.between ? { between: one.between } : {}) },
      ]),
    ),
  mark({ figures, tolerance, marks }, said, _, key, { who }) {
    const { asked } = keyOf(figures, key, who);
    const { checks, partly, typed } = judgeValues(asked, said, tolerance);
    const isConstant = typed.length > 1 && typed.every((value) => value === typed[0]);
    // Two figures may be equal, and then one of four right is enough to show work.
    const fewAreRight = 2 * checks.filter(({ outcome }) => outcome === 'holds').length <= checks.length;
    return marksForChecks(
      checks,
      marks,
      { credit: 'each' },
      isConstant && fewAreRight
        ? [check(WORK, 'fails', 'The same number is typed for every figure: nothing was computed.')]
        : [],
      partly,
    );
  },
  slips: ({ figures }, said, _, key, { who }, fails) =>
    slipsInValues(keyOf(figures, key, who).asked, said, fails),
  unreadSlips: () => [],
});
