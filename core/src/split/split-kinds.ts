import { SieveError } from '../errors.js';
import type { Parameters, ValuesOf } from '../sentence/parameter.js';
import { kindIn, type Planned, type SentenceKind } from '../sentence/sentence.js';
import { columnNamed, type Table } from '../table/table.js';
import { labelsOf } from '../table/labels.js';
import type { PartitionPlan } from './partition.js';
import type { PartSize } from './parts.js';
import { LARGEST_SEED, PART_NAMES, type PartName } from './plan.js';

/** How a table's rows are to be parted into training, validation and held-out rows, as one sentence. */
export type SplitPlan = Planned;

/** What a plan asks `partition` for. */
interface Asked {
  readonly table: Table;
  readonly plan: PartitionPlan;
  /** What each part of the partition is. */
  readonly parts: readonly PartName[];
}

/** A way of parting rows: its sentence, and what it asks `partition` for. */
export interface SplitKind<P extends Parameters = Parameters> extends SentenceKind<P> {
  /** Whether another seed, or another text to hash with, parts the rows anew. */
  readonly isDrawn: boolean;
  /** Which rows are held out: those that the plan chooses, or those that the data set's reserve holds already. */
  readonly holdsOut: 'plan' | 'reserve';
  /** @throws SieveError `plan-value` with the key of the parameter as its field */
  ask(table: Table, values: ValuesOf<P>): Asked;
}

const splitKind = <const P extends Parameters>(kind: SplitKind<P>): SplitKind => kind;

const share = (part: string, start: number, min: number) =>
  ({
    type: 'number',
    label: `share of ${part} rows in percent`,
    min,
    max: 99,
    step: 1,
    unit: '%',
    start,
  }) as const;
const rows = (part: string, start: number, min: number) =>
  ({ type: 'number', label: `number of ${part} rows`, min, step: 1, unit: 'rows', start }) as const;

/** Sizes of the parts: whole percentages that make 100, or numbers of rows of which training takes the rest. */
const SIZES = {
  sized: {
    type: 'choice',
    label: 'how parts are sized',
    choices: [
      { value: 'percent', text: 'in percent' },
      { value: 'rows', text: 'in rows' },
    ],
  },
  training: share('training', 80, 1),
  validation: share('validation', 0, 0),
  heldout: share('held-out', 20, 1),
  validationRows: rows('validation', 0, 0),
  heldoutRows: rows('held-out', 100, 1),
} as const;
const SHARES = {
  training: SIZES.training,
  validation: SIZES.validation,
  heldout: SIZES.heldout,
} as const;

const PERCENT = 'Keep {training} for training, {validation} for validation and hold {heldout} out';
const sizesSentence = ({ sized }: { readonly sized: 'percent' | 'rows' }): string =>
  sized === 'rows'
    ? 'Hold {heldoutRows} out, set {validationRows} aside for validation and keep all others for training, sized {sized}'
    : `${PERCENT}, sized {sized}`;

const fail = (field: string, message: string) => new SieveError('plan-value', message, { field });

function shares(values: ValuesOf<typeof SHARES>): PartSize[] {
  const total = values.training + values.validation + values.heldout;
  if (total !== 100) throw fail('training', `The shares make ${total} %, not 100 %.`);
  return PART_NAMES.map((name) => ({ name, share: values[name] / 100 }));
}

const sizes = (values: ValuesOf<typeof SIZES>): PartSize[] =>
  values.sized === 'percent'
    ? shares(values)
    : [
        { name: 'training', rest: true },
        { name: 'validation', rows: values.validationRows },
        { name: 'heldout', rows: values.heldoutRows },
      ];

const seed = { type: 'number', label: 'seed', min: 0, max: LARGEST_SEED, step: 1, start: 2718 } as const;
const named = (key: 'stratify' | 'group', name: string) => (name === '' ? {} : { [key]: name });
const TWO_PARTS: readonly PartName[] = ['training', 'heldout'];
const WITHOUT_HELD_OUT: readonly PartName[] = ['training', 'validation'];
const twoParts: PartSize[] = [
  { name: 'training', rest: true },
  { name: 'heldout', share: 0 },
];

/** Every way of parting rows, in the order in which a menu has them. Desk, server and documentation use this list. */
export const SPLIT_KINDS: readonly SplitKind[] = [
  splitKind({
    key: 'draw',
    title: 'at random',
    about:
      'Rows are drawn, with equal shares of a column’s values in every part where one is named (a column of many numbers by its fifths), and whole groups where a column of groups is named.',
    isDrawn: true,
    holdsOut: 'plan',
    parameters: {
      ...SIZES,
      stratify: { type: 'column', label: 'stratify by', none: 'nothing' },
      group: { type: 'column', label: 'group by', none: 'column: none' },
      seed,
    },
    sentence: (values) =>
      `${sizesSentence(values)}, with equal shares of {stratify}, never parting rows of one {group}, seed {seed}.`,
    ask: (table, values) => {
      const { stratify, group } = values;
      const byRows = stratify === '' ? 'random' : 'stratified';
      const byGroups = stratify === '' ? 'grouped' : 'stratified-grouped';
      return {
        table,
        parts: PART_NAMES,
        plan: {
          method: group === '' ? byRows : byGroups,
          parts: sizes(values),
          seed: values.seed,
          ...named('stratify', stratify),
          ...named('group', group),
        },
      };
    },
  }),
  splitKind({
    key: 'time',
    title: 'in order of time',
    about:
      'The earliest rows are for training, the latest are held out; rows of one time stay together. A gap leaves out what lies shortly before a later part: days for dates, units of the column for numbers.',
    isDrawn: false,
    holdsOut: 'plan',
    parameters: {
      ...SIZES,
      time: { type: 'column', label: 'the column of time', of: ['time', 'number'] },
      gap: { type: 'number', label: 'gap', min: 0, start: 0 },
    },
    sentence: (values) => `${sizesSentence(values)}, in order of {time} with a gap of {gap}.`,
    ask: (table, values) => ({
      table,
      parts: PART_NAMES,
      plan: { method: 'time', parts: sizes(values), seed: 0, time: values.time, gap: values.gap },
    }),
  }),
  splitKind({
    key: 'cut-off',
    title: 'at a point in time',
    about: 'Everything from a date (or a number) on is held out, everything before it is for training.',
    isDrawn: false,
    holdsOut: 'plan',
    parameters: {
      time: { type: 'column', label: 'the column of time', of: ['time', 'number'] },
      cutOff: { type: 'text', label: 'the first time that is held out', start: '' },
      gap: { type: 'number', label: 'gap', min: 0, start: 0 },
    },
    sentence: () =>
      'Hold out the rows whose {time} is {cutOff} or later, and keep the earlier ones for training with a gap of {gap}.',
    ask: (table, { time, cutOff, gap }) => ({
      table,
      parts: TWO_PARTS,
      plan: { method: 'time', parts: twoParts, seed: 0, time, cutOff: cutOff.trim(), gap },
    }),
  }),
  splitKind({
    key: 'every',
    title: 'every n-th row',
    about: 'Each n-th row is held out, counted over the rows that take part.',
    isDrawn: false,
    holdsOut: 'plan',
    parameters: { every: { type: 'number', label: 'n', min: 2, step: 1, start: 5 } },
    sentence: () => 'Of each {every} rows hold the last one out, and keep the others for training.',
    ask: (table, { every }) => ({
      table,
      parts: TWO_PARTS,
      plan: { method: 'every', parts: twoParts, seed: 0, every },
    }),
  }),
  splitKind({
    key: 'first',
    title: 'in the order of the rows',
    about: 'The first rows are for training, the last are held out, as they stand in the table.',
    isDrawn: false,
    holdsOut: 'plan',
    parameters: SIZES,
    sentence: (values) => `${sizesSentence(values)}, in the order of the rows.`,
    ask: (table, values) => ({
      table,
      parts: PART_NAMES,
      plan: { method: 'first', parts: sizes(values), seed: 0 },
    }),
  }),
  splitKind({
    key: 'column',
    title: 'by the values of a column',
    about: 'The rows with some values of a column are held out, those with some others are for validation.',
    isDrawn: false,
    holdsOut: 'plan',
    parameters: {
      column: { type: 'column', label: 'the column' },
      heldout: { type: 'texts', label: 'values that are held out' },
      validation: { type: 'texts', label: 'values for validation', none: 'nothing' },
    },
    sentence: () =>
      'Hold out the rows whose {column} is {heldout}, take those where it is {validation} for validation, and keep the others for training.',
    ask: (table, values) => byColumn(table, values),
  }),
  splitKind({
    key: 'key',
    title: 'by the identifier',
    about:
      'A row’s part follows from its identifier and a text alone, so that rows that come later move nobody. Sizes come near the shares and are not exact.',
    isDrawn: true,
    holdsOut: 'plan',
    parameters: {
      ...SHARES,
      identifier: { type: 'column', label: 'the identifier' },
      salt: { type: 'text', label: 'the text to hash with', start: '', none: 'nothing' },
    },
    sentence: () => `${PERCENT}, by a hash of {identifier} with {salt}.`,
    ask: (table, values) => ({
      table,
      parts: PART_NAMES,
      plan: {
        method: 'key',
        parts: shares(values),
        seed: 0,
        identifier: values.identifier,
        salt: values.salt,
      },
    }),
  }),
  splitKind({
    key: 'reserve',
    title: 'by the reserve',
    about:
      'The rows that exercises on this data set hold out already are held out again. The others are for training, or some of them for validation: at random, with equal shares of a column’s values and whole groups where they are named.',
    isDrawn: false,
    holdsOut: 'reserve',
    parameters: {
      validation: share('validation', 0, 0),
      stratify: { type: 'column', label: 'stratify by', none: 'nothing' },
      group: { type: 'column', label: 'group by', none: 'column: none' },
      seed,
    },
    sentence: () =>
      'Hold out the rows of the reserve and set {validation} of the others aside for validation, with equal shares of {stratify}, keeping the rows of one {group} together, seed {seed}.',
    ask: (table, { validation, stratify, group, seed: of }) => {
      const byRows = stratify === '' ? 'random' : 'stratified';
      const byGroups = stratify === '' ? 'grouped' : 'stratified-grouped';
      return {
        table,
        parts: WITHOUT_HELD_OUT,
        plan: {
          method: group === '' ? byRows : byGroups,
          parts: [
            { name: 'training', share: 1 - validation / 100 },
            { name: 'validation', share: validation / 100 },
          ],
          seed: of,
          ...named('stratify', stratify),
          ...named('group', group),
        },
      };
    },
  }),
];

/** A column of the parts' names stands in for the column, whose other values are for training. */
function byColumn(
  table: Table,
  {
    column: name,
    heldout,
    validation,
  }: { column: string; heldout: readonly string[]; validation: readonly string[] },
): Asked {
  const { labels, codes } = labelsOf(columnNamed(table, name));
  for (const [field, values] of [
    ['heldout', heldout],
    ['validation', validation],
  ] as const) {
    const unknown = values.find((value) => !labels.includes(value));
    if (unknown !== undefined) throw fail(field, `No row has “${unknown}” in ${name}.`);
  }
  const both = heldout.find((value) => validation.includes(value));
  if (both !== undefined) throw fail('validation', `“${both}” is held out already.`);
  const partOf = labels.map((label) => (heldout.includes(label) ? 2 : validation.includes(label) ? 1 : 0));
  let part = 'part';
  while (table.columns.some((column) => column.name === part)) part += '_';
  const column = {
    kind: 'category' as const,
    name: part,
    levels: PART_NAMES,
    codes: codes.map((code) => partOf[code] ?? 0),
  };
  return {
    table: { rowCount: table.rowCount, columns: [...table.columns, column] },
    parts: PART_NAMES,
    plan: {
      method: 'column',
      column: part,
      seed: 0,
      parts: PART_NAMES.map((p) => (p === 'training' ? { name: p, rest: true } : { name: p, share: 0 })),
    },
  };
}

/** @throws SieveError `plan-kind` */
export const splitKindOf = (plan: Pick<SplitPlan, 'kind'>): SplitKind =>
  kindIn(SPLIT_KINDS, plan.kind, 'way of parting rows');
