import { SPLIT_SLIPS } from '../assignments/assignment-slips.js';
import { UNREAD_SPLIT_SLIPS } from '../assignments/unread-rows.js';
import { WORK, marksForChecks } from '../contract/credit.js';
import { type Check } from '../../../foundation/check.js';
import { givenRows } from '../../material/held-out.js';
import { SieveError } from '../../../foundation/errors.js';
import { writeRecords } from '../../../data/formats/csv/write.js';
import { at, counted } from '../../../foundation/numbers.js';
import { checkPlanned, newPlan } from '../../../data/sentence/sentence.js';
import {
  groupsCheck,
  NO_BOUNDS,
  shareCheck,
  sizeWords,
  strataCheck,
  strataWords,
  timeCheck,
  twinsCheck,
} from '../assignments/assignment-checks.js';
import { honestRate, rateWords } from '../assignments/honest-rate.js';
import { assignmentFaults } from '../assignments/assignment-work.js';
import { headOf, checkMarks, givenColumns, questionKind, slipsIn } from '../contract/kind.js';
import type { SplitQuestion, SplitRules } from './question.js';
import { rowsKeyOf } from '../assignments/rows-key.js';
import type { RowsKey } from '../assignments/key.js';
import { partsOf, SPLIT_SENTENCE, splitValues, type SplitValues } from './split-sentence.js';
import { readSplit, splitCells } from './read-split.js';

export const split = questionKind<SplitQuestion, SplitRules, RowsKey, Int32Array>({
  key: 'split',
  title: 'a split',
  about:
    'A file that names the part of each training row; or a file of identifiers for each part, zipped; or a mask, one line for each row, true for training. Checked: every row once, sizes, shares of a column, groups kept whole, time in order, rows with the same features together, as the sentence asks.',
  sentence: SPLIT_SENTENCE,
  markedBy: 'work',
  plausibility: [WORK],
  isRun: false,
  isShared: false,
  from: (head, body) => ({
    ...head,
    kind: 'split',
    marks: body.number('marks', 0),
    values: body.values('values'),
  }),
  givesHeldOut: () => false,
  begin: (id, { columns, roles }) => ({
    id,
    kind: 'split',
    title: 'The split you used',
    text: 'Split the training rows and hand in which row went where.',
    marks: 4,
    values: {
      ...newPlan(SPLIT_SENTENCE, columns).values,
      stratify: roles.task === 'regression' ? '' : roles.target,
      group: roles.group ?? '',
    },
  }),
  check(question, subject) {
    checkMarks(question.marks);
    checkPlanned(SPLIT_SENTENCE, { kind: 'split', values: question.values }, givenColumns(subject));
    const { training, validation } = splitValues(question);
    if (training + validation >= 100)
      throw new SieveError('plan-value', 'Training and validation leave no rows for testing.', {
        field: 'training',
      });
  },
  given: (assigned, { identifiers, parts }) => ({
    names: identifiers,
    text: (place) => at(parts, at(assigned, place)),
  }),
  usesRuns: () => false,
  make(question, material) {
    const { identifier, identifiers } = givenRows(material);
    const values = splitValues(question);
    const shares = partsOf(values);
    const parts = shares.map(({ name }) => name);
    const { key, plan } = rowsKeyOf(material, {
      ...values,
      together: values.twins === 'together',
      shares: shares.map((part) => part.share),
      isFolds: false,
    });
    const bounds = key.bounds ?? NO_BOUNDS;
    const asked = [
      `shares of ${shares
        .map(({ name, share: of }) => `${Math.round(of * 100)} % ${name}`)
        .join(', ')}, within ${sizeWords(values.within, bounds)}`,
      key.strata
        ? `equal shares of ${values.stratify} within ${strataWords(values.sharesWithin, key.strata, bounds)}`
        : null,
      values.group === '' ? null : `whole groups of ${values.group}`,
      values.time === '' ? null : `order of ${values.time}`,
      values.twins === 'together' ? 'rows with the same features in one part' : null,
    ].filter((one) => one !== null);
    const rate = honestRate(plan, (assigned) =>
      checksOf(assigned, parts, values, key).every(({ outcome }) => outcome !== 'fails'),
    );
    return {
      rules: { identifier, identifiers, parts, says: asked.join('; ') },
      key,
      example: writeRecords(
        [identifier, 'part'],
        identifiers.map((name) => [name, 'training']),
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
    fields: [],
    file: {
      columns: [rules.identifier, 'part'],
      forms: [
        `or a zip with a file for each part that has the column ${rules.identifier}: ${rules.parts.map((name) => `${name}.csv`).join(', ')}`,
        ...(rules.parts.length === 2
          ? ['or a mask: one column, a line for each training row, true for training']
          : []),
      ],
      optional: false,
    },
    checked: `A file with the part of each training row: ${rules.parts.join(', ')}. Checked: every row once; ${rules.says}.`,
  }),
  read: ({ file }, rules) => readSplit(file?.bytes ?? new Uint8Array(), file?.name ?? 'the file', rules),
  mark(question, assigned, rules, key) {
    const values = splitValues(question);
    return marksForChecks(
      checksOf(assigned, rules.parts, values, key),
      question.marks,
      values,
      assignmentFaults(assigned, partsOf(values), key, 'part'),
    );
  },
  slips: (question, assigned, { identifiers }, key, _, fails) =>
    slipsIn(SPLIT_SLIPS, { assigned, parts: partsOf(splitValues(question)), key, identifiers, fails }),
  unreadSlips({ file }, rules) {
    const cells = file && splitCells(file.bytes, file.name, rules);
    return cells ? slipsIn(UNREAD_SPLIT_SLIPS, cells) : [];
  },
});

function checksOf(
  assigned: Int32Array,
  names: readonly string[],
  values: SplitValues,
  key: RowsKey,
): Check[] {
  const { strata, groups, time, twins, bounds = NO_BOUNDS } = key;
  return [
    shareCheck(assigned, partsOf(values), values.within, bounds),
    ...(strata ? [strataCheck(assigned, names, strata, values.sharesWithin, bounds)] : []),
    ...(groups ? [groupsCheck(assigned, groups)] : []),
    ...(time ? [timeCheck(assigned, names, time)] : []),
    ...(values.twins === 'together' ? [twinsCheck(assigned, twins)] : []),
  ];
}
