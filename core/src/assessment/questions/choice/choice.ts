import { check, type Check } from '../../../foundation/check.js';
import { SieveError } from '../../../foundation/errors.js';
import { generatorMaterial } from '../../material/given-tables.js';
import { at, counted, indices } from '../../../foundation/numbers.js';
import { shuffle } from '../../../foundation/random/random.js';
import { keyedRandom } from '../../../foundation/random/secret.js';
import type { GeneratedStatement } from '../../statements/library-statement.js';
import { libraryStatementOf } from '../../statements/registry.js';
import { checkPlanned, newPlan } from '../../../data/sentence/sentence.js';
import { rounded, WORK } from '../contract/credit.js';
import { chosenField } from '../contract/fields.js';
import { headOf, checkMarks, questionKind } from '../contract/kind.js';
import type { Respondent } from '../../generators/respondent.js';
import type { ChoiceQuestion, ChoiceKey, ChoiceRules } from './question.js';
import type { Field } from '../contract/answer.js';
import { CHOICE_SENTENCE, readValues } from './sentence.js';

/** Where in the field of the one choice the place is. */
const CHOSEN = 'chosen';

const TRUTHS = [
  { value: 'true', text: 'true' },
  { value: 'false', text: 'false' },
] as const;

/** What a statement says to one student, where that is drawn. */
const sayingOf = (
  reading: string,
  place: number,
  { secret, question, id: person }: Respondent,
): GeneratedStatement => {
  const found = libraryStatementOf(reading);
  if (found.from === 'data') throw new TypeError('a reading of the data has its text in the rules');
  return found.say(keyedRandom(secret, { what: 'statement', question, person, number: place }));
};

/** The statements of one student: their places in the rules, in an order of the student's own. */
function statementsFor({ statements }: ChoiceRules, who: Respondent): { place: number; text: string }[] {
  const { secret, question, id: person } = who;
  const order = shuffle(indices(statements.length), keyedRandom(secret, { what: 'order', question, person }));
  return Array.from(order, (place) => {
    const statement = at(statements, place);
    return {
      place,
      text: 'text' in statement ? statement.text : sayingOf(statement.reading, place, who).text,
    };
  });
}

function fieldsFor(rules: ChoiceRules, who: Respondent): Field[] {
  const own = statementsFor(rules, who);
  if (rules.manner === 'one')
    return [
      {
        key: CHOSEN,
        label: 'true is',
        choices: own.map(({ place, text }) => ({ value: String(place + 1), text })),
      },
    ];
  return own.map(({ place, text }) => ({ key: `s${place + 1}`, label: text, choices: TRUTHS }));
}

/** Whether the statement of a place is true, for one student. */
const truthsOf =
  ({ statements }: ChoiceRules, { truths }: ChoiceKey, who: Respondent) =>
  (place: number): boolean => {
    const statement = at(statements, place);
    return 'reading' in statement ? sayingOf(statement.reading, place, who).truth : truths[place] === true;
  };

/** Characters of a statement. */
const LONGEST_STATEMENT = 2000;

export const choice = questionKind<ChoiceQuestion, ChoiceRules, ChoiceKey, ReadonlyMap<number, boolean>>({
  key: 'choice',
  title: 'a choice',
  about:
    'Statements, of which each is said to be true or false, or the one that is true is chosen; each student has them in an order of their own. Statements of the library are worded right or wrong at random; those about the data have their truth computed.',
  sentence: CHOICE_SENTENCE,
  markedBy: 'key',
  plausibility: [],
  isRun: false,
  isShared: true,
  from: (head, body) => ({
    ...head,
    kind: 'choice',
    marks: body.number('marks', 0),
    values: body.values('values'),
    statements: body
      .list('statements')
      .map((one) =>
        one.has('reading')
          ? { reading: one.text('reading') }
          : { text: one.text('text', LONGEST_STATEMENT), truth: one.flag('truth') },
      ),
  }),
  givesHeldOut: () => false,
  begin: (id) => ({
    id,
    kind: 'choice',
    title: 'What may be said',
    text: 'Choose for each statement whether it is true.',
    marks: 3,
    // What guessing earns is taken off again.
    values: { ...newPlan(CHOICE_SENTENCE, []).values, credit: 'less' },
    statements: [{ reading: 'r2' }, { reading: 'area' }, { reading: 'replacement' }],
  }),
  check({ marks, values, statements }) {
    checkMarks(marks);
    checkPlanned(CHOICE_SENTENCE, { kind: 'choice', values }, []);
    const fail = (message: string) => new SieveError('statements', message, { field: 'statements' });
    if (statements.length === 0) throw fail('Give one statement or more.');
    statements.forEach((statement, i) => {
      if ('reading' in statement) libraryStatementOf(statement.reading);
      else if (statement.text.trim() === '') throw fail(`Statement ${i + 1} is empty.`);
    });
    if (values['manner'] !== 'one') return;
    if (statements.some((statement) => 'reading' in statement))
      throw fail(
        'Statements of the library are worded right or wrong at random, so that several may be true: let each be said to be true or false.',
      );
    const right = statements.filter((statement) => 'truth' in statement && statement.truth).length;
    if (right !== 1)
      throw fail(`${counted(right, 'statement')} ${right === 1 ? 'is' : 'are'} true, and one must be.`);
  },
  given: () => null,
  usesRuns: () => false,
  make({ id: question, values, statements }, material) {
    const { secret } = material;
    const subject = generatorMaterial(material);
    // Authors write the true statements first: their names are assigned at random.
    const dealt = Array.from(
      shuffle(indices(statements.length), keyedRandom(secret, { what: 'statements', question })),
      (place) => at(statements, place),
    );
    const all = dealt.map(
      (
        statement,
        place,
      ): { rule: ChoiceRules['statements'][number]; truth: boolean | null; about: string } => {
        if ('text' in statement)
          return { rule: { text: statement.text }, truth: statement.truth, about: statement.text };
        const reading = libraryStatementOf(statement.reading);
        if (reading.from === 'chance')
          return { rule: statement, truth: null, about: `${reading.title}: worded right or wrong at random` };
        const { text, truth } = reading.compute(
          subject,
          keyedRandom(secret, { what: 'statement', question, number: place }),
        );
        return { rule: { text }, truth, about: `${text} (computed from the training rows)` };
      },
    );
    return {
      rules: { manner: values['manner'] === 'one' ? 'one' : 'each', statements: all.map(({ rule }) => rule) },
      key: { truths: all.map(({ truth }) => truth) },
      example: null,
      about: all.map(({ truth, about }) =>
        truth === null ? about : `${truth ? 'true' : 'false'}: ${about}`,
      ),
    };
  },
  isPersonal: () => true,
  sheet: (question, rules, who) => ({
    ...headOf(question),
    table: null,
    file: null,
    fields: fieldsFor(rules, who),
    checked: rules.manner === 'one' ? 'One statement is true.' : 'Any number of them may be true.',
  }),
  read({ fields }, rules, who) {
    const checks: Check[] = [];
    const said = new Map<number, boolean>();
    const own = fieldsFor(rules, who);
    for (const field of own) {
      const chosen = chosenField(field, fields);
      if ('failed' in chosen) checks.push(chosen.failed);
      else if (rules.manner === 'one') said.set(Number(chosen.value) - 1, true);
      else said.set(Number(field.key.slice(1)) - 1, chosen.value === 'true');
    }
    if (checks.length > 0) return { checks, rows: null, content: null };
    const held = check(
      'fields',
      'holds',
      rules.manner === 'one' ? 'A statement is chosen' : `${counted(own.length, 'statement')}, all answered`,
    );
    return { checks: [held], rows: null, content: said };
  },
  right(rules, key, who) {
    const truthOf = truthsOf(rules, key, who);
    if (rules.manner === 'one')
      return { [CHOSEN]: { chosen: [String(rules.statements.findIndex((_, i) => truthOf(i)) + 1)] } };
    return Object.fromEntries(
      rules.statements.map((_, place) => [`s${place + 1}`, { chosen: [String(truthOf(place))] }]),
    );
  },
  mark(question, said, rules, key, { who }) {
    const { marks } = question;
    const { credit } = readValues(question);
    const truthOf = truthsOf(rules, key, who);
    const words = (truth: boolean) => (truth ? 'true' : 'false');
    if (rules.manner === 'one') {
      const [place = -1] = said.keys();
      const right = place >= 0 && truthOf(place);
      const texts = new Map(statementsFor(rules, who).map((one) => [one.place, one.text]));
      const textOf = (of: number) => `“${texts.get(of) ?? ''}”`;
      const one = check(
        'choice',
        right ? 'holds' : 'fails',
        right ? 'The statement chosen is true' : 'The statement chosen is not true',
        { measured: textOf(place), expected: textOf(rules.statements.findIndex((_, i) => truthOf(i))) },
      );
      return {
        judged: [{ check: one, marks: right ? marks : 0, outOf: marks }],
        marks: right ? marks : 0,
        scored: null,
      };
    }
    const n = rules.statements.length;
    const judged = statementsFor(rules, who).map(({ place, text }) => {
      const truth = truthOf(place);
      const right = said.get(place) === truth;
      const made = check(`s${place + 1}`, right ? 'holds' : 'fails', text, {
        measured: words(said.get(place) === true),
        expected: words(truth),
      });
      return { check: made, marks: rounded(right ? marks / n : 0), outOf: rounded(marks / n) };
    });
    const answers = new Set(said.values());
    const isMixed = new Set(rules.statements.map((_, place) => truthOf(place))).size > 1;
    if (answers.size === 1 && isMixed && n > 1)
      return {
        judged: [
          {
            check: check(WORK, 'fails', 'Every statement has the same answer: nothing was decided.'),
            marks: 0,
            outOf: 0,
          },
          ...judged.map((one) => ({ ...one, marks: 0 })),
        ],
        marks: 0,
        scored: null,
      };
    const right = judged.filter(({ check: { outcome } }) => outcome === 'holds').length;
    const counts = { each: right, less: Math.max(0, right - (n - right)), all: right === n ? n : 0 }[credit];
    return { judged, marks: rounded((marks * counts) / n), scored: null };
  },
  slips: () => [],
  unreadSlips: () => [],
});
