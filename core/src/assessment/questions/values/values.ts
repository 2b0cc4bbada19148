import { allHold, check, type Check } from '../../../foundation/check.js';
import { generate } from '../../generators/generate.js';
import type { GeneratedItem } from '../../generators/generator.js';
import { generatorOf } from '../../generators/registry.js';
import { accepts, toleranceKindOf } from '../../generators/tolerance.js';
import type { Typed } from '../../generators/typed.js';
import { SieveError } from '../../../foundation/errors.js';
import { givenRows } from '../../material/held-out.js';
import { counted, shortNumber } from '../../../foundation/numbers.js';
import { checkPlanned, newPlan } from '../../../data/sentence/sentence.js';
import { selectRows } from '../../../data/table/table.js';
import { marksForChecks, WORK } from '../contract/credit.js';
import { typedField } from '../contract/fields.js';
import { headOf, checkMarks, givenColumns, questionKind } from '../contract/kind.js';
import { NOBODY, type Respondent } from '../../generators/respondent.js';
import type { ValuesQuestion, FigureAsked, ValuesKey, ValuesRules } from './question.js';
import type { Field } from '../contract/answer.js';
import { FIGURE, VALUE, valuesIn } from './typed-values.js';

/** What doubles lose on the way to the end of a range. */
const EDGE = 1e-9;

/** What is asked of a student, without the figures. */
const askedOf = (
  { figures, computed }: ValuesRules,
  who: Respondent,
): Pick<GeneratedItem, 'given' | 'table'> & { readonly asked: readonly FigureAsked[] } =>
  computed ?? generate(figures, who);

const fieldsOf = (asked: readonly FigureAsked[]): Field[] =>
  asked.map(({ key, name, convention }) => ({
    key,
    label: convention == null ? name : `${name} (${convention})`,
    choices: null,
  }));

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

export const values = questionKind<ValuesQuestion, ValuesRules, ValuesKey, ReadonlyMap<string, Typed>>({
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
  check({ marks, figures, tolerance, text }, subject) {
    const columns = givenColumns(subject);
    checkMarks(marks);
    const kind = generatorOf(figures);
    checkPlanned(kind, figures, columns);
    checkPlanned(toleranceKindOf(tolerance), tolerance, columns);
    // What is computed from the data is known when the key is made.
    if (kind.from === 'chance') checkPlaceholders(text, generate(figures, NOBODY).given);
  },
  given: () => null,
  usesRuns: () => false,
  make({ figures, tolerance, text }, material) {
    const kind = generatorOf(figures);
    const rows = givenRows(material).rows;
    const computed =
      kind.from === 'data'
        ? kind.compute(figures.values, {
            table: selectRows(
              material.table,
              rows,
              material.table.columns.map(({ name }) => name),
            ),
            roles: material.roles,
          })
        : null;
    if (computed) checkPlaceholders(text, computed.given);
    const lost = computed?.asked.find(({ figure }) => figure.value === null);
    if (lost?.figure.value === null)
      throw new SieveError(
        'no-figure',
        `${lost.name} has no value in the training rows: ${lost.figure.reason}.`,
        { field: 'asked' },
      );
    return {
      rules: {
        figures,
        computed: computed && {
          given: computed.given,
          table: computed.table,
          asked: computed.asked.map(({ key, name, convention }) => ({ key, name, convention })),
        },
        says: toleranceKindOf(tolerance).title,
      },
      key: { computed },
      example: null,
      about: computed
        ? computed.asked.map(
            ({ name, figure, between }) =>
              `${name} ${shortNumber(figure.value ?? NaN, 6)}${between ? `, accepted from ${shortNumber(between[0], 4)} to ${shortNumber(between[1], 4)}` : ''}, of ${counted(rows.length, 'training row')}`,
          )
        : [`${kind.title}, drawn for each student; the keys follow from what is drawn`],
    };
  },
  isPersonal: ({ computed }) => computed === null,
  sheet(question, rules, who) {
    const { given, table, asked } = askedOf(rules, who);
    return {
      ...headOf(question),
      text: filledText(question.text, given),
      table,
      fields: fieldsOf(asked),
      file: {
        columns: [FIGURE, VALUE],
        forms: [`figures: ${asked.map(({ key }) => key).join(', ')}`],
        optional: true,
      },
      checked: rules.computed
        ? 'Computed from the training rows, the same for everybody.'
        : 'These numbers are yours alone; other students get different ones.',
    };
  },
  read(answer, rules, who) {
    const { asked } = askedOf(rules, who);
    const given = answer.file ? valuesIn(answer.file, asked) : { fields: answer.fields, checks: [] };
    const typed = new Map<string, Typed>();
    const checks: Check[] = [...given.checks];
    for (const field of allHold(given.checks) ? fieldsOf(asked) : []) {
      const read = typedField(field, given.fields);
      if ('typed' in read) typed.set(field.key, read.typed);
      else checks.push(read.failed);
    }
    const holds = allHold(checks);
    if (holds) checks.push(check('fields', 'holds', `${counted(asked.length, 'number')}, none missing`));
    return { checks, rows: null, content: holds ? typed : null };
  },
  mark({ figures, tolerance, marks }, typed, _, key, { who }) {
    const { asked } = key.computed ?? generate(figures, who);
    const checks = asked.flatMap(({ key: name, name: title, figure, between }) => {
      const own = typed.get(name);
      if (!own || figure.value === null) return [];
      const { right, why } = between
        ? { right: own.value >= between[0] - EDGE && own.value <= between[1] + EDGE, why: null }
        : accepts(tolerance, figure.value, own);
      const expected = between
        ? `${shortNumber(between[0], 4)} to ${shortNumber(between[1], 4)}`
        : shortNumber(figure.value, 6);
      return [
        check(
          name,
          right ? 'holds' : 'fails',
          right ? `${title} is right` : `${title} is not right${why === null ? '' : `: ${why}`}`,
          { measured: shortNumber(own.value, 10), expected },
        ),
      ];
    });
    const all = [...typed.values()].map(({ value }) => value);
    const isConstant = all.length > 1 && all.every((value) => value === all[0]);
    // Two figures may be equal, and then one of four right is enough to show work.
    const fewAreRight = 2 * checks.filter(({ outcome }) => outcome === 'holds').length <= checks.length;
    return marksForChecks(
      checks,
      marks,
      'each',
      isConstant && fewAreRight
        ? [check(WORK, 'fails', 'The same number is typed for every figure: nothing was computed.')]
        : [],
    );
  },
});
