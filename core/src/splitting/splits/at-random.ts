import { SieveError } from '../../foundation/errors.js';
import { at, counted } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import { columnNamed } from '../../data/table/table.js';
import { countGroups } from '../algorithms/group-counts.js';
import { assignGroups } from '../algorithms/grouped.js';
import { splitAtRandom, splitStratified } from '../algorithms/random.js';
import { strataOf } from '../algorithms/strata.js';
import { LEFT_OUT, PART_NAMES } from '../parts/part-names.js';
import { weightsOf } from '../parts/parts.js';
import { everyRowIsAssigned, groupsStayWhole, sizesAreApportioned, strataAreShared } from './invariants.js';
import { seed, SIZES, sizes, sizesSentence } from './sizes.js';
import { splitter, type SplitMethod, type SplitRequest } from './splitter.js';

const random: SplitMethod = {
  name: 'random',
  id: 'random@1',
  title: 'at random',
  isRandom: true,
  needs: [],
  chosenBy: [],
  invariants: [everyRowIsAssigned, sizesAreApportioned],
  assign: ({ plan, rows, parts }) =>
    splitAtRandom(rows, weightsOf(plan.parts, rows.length), seededRandom(plan.seed), parts),
};

const stratified: SplitMethod = {
  name: 'stratified',
  id: 'stratified@1',
  title: 'stratified by a column',
  isRandom: true,
  needs: ['stratify'],
  chosenBy: ['stratify'],
  invariants: [everyRowIsAssigned, strataAreShared],
  assign: ({ table, plan, rows, parts }) => {
    const { labels, codes } = strataOf(columnNamed(table, plan.stratify ?? ''));
    const weights = weightsOf(plan.parts, rows.length);
    splitStratified(rows, codes, labels.length, weights, seededRandom(plan.seed), parts);
  },
};

const grouped: SplitMethod = {
  name: 'grouped',
  id: 'grouped@1',
  title: 'by groups',
  isRandom: true,
  needs: ['group'],
  chosenBy: ['group'],
  invariants: [everyRowIsAssigned, groupsStayWhole],
  assign: (request) => splitGroups(request, null),
};

const stratifiedGrouped: SplitMethod = {
  name: 'stratified-grouped',
  id: 'stratified-grouped@1',
  title: 'stratified and by groups',
  isRandom: true,
  needs: ['stratify', 'group'],
  chosenBy: ['stratify', 'group'],
  invariants: [everyRowIsAssigned, groupsStayWhole],
  assign: (request) => splitGroups(request, request.plan.stratify ?? null),
};

function splitGroups({ table, plan, rows, parts }: SplitRequest, stratify: string | null): void {
  const column = columnNamed(table, plan.group ?? '');
  const strata = stratify === null ? null : strataOf(columnNamed(table, stratify));
  const { groups, present, counts } = countGroups(rows, column, strata);
  const weights = weightsOf(plan.parts, rows.length);
  const wanted = weights.filter((weight) => weight > 0).length;
  if (present.length < wanted) {
    throw new SieveError(
      'too-few-groups',
      `${counted(present.length, 'group')} of ${column.name} cannot make ${wanted} parts without being split.`,
      { field: column.name },
    );
  }
  const assigned = assignGroups(counts, weights, seededRandom(plan.seed));
  const partOf = new Int8Array(groups.labels.length).fill(LEFT_OUT);
  present.forEach((g, i) => {
    partOf[g] = at(assigned, i);
  });
  for (const row of rows) parts[row] = at(partOf, at(groups.codes, row));
}

/** The method, and its settings, that split at random by the columns that a sentence names. */
export function randomMethod({ stratify, group }: { readonly stratify: string; readonly group: string }) {
  const byRows = stratify === '' ? random : stratified;
  const byGroups = stratify === '' ? grouped : stratifiedGrouped;
  return {
    method: (group === '' ? byRows : byGroups).name,
    ...(stratify === '' ? {} : { stratify }),
    ...(group === '' ? {} : { group }),
  };
}

/** Columns that a split at random takes into account. */
export const STRATA_AND_GROUPS = {
  stratify: { type: 'column', label: 'stratify by', none: 'nothing' },
  group: { type: 'column', label: 'group by', none: 'column: none' },
} as const;

export const atRandom = splitter({
  key: 'draw',
  title: 'at random',
  about:
    'Rows are drawn, with equal shares of a column’s values in every part where one is named (a column of many numbers by its fifths), and whole groups where a column of groups is named.',
  isRandom: true,
  holdsOut: 'plan',
  parameters: {
    ...SIZES,
    ...STRATA_AND_GROUPS,
    seed,
  },
  sentence: (values) =>
    `${sizesSentence(values)}, with equal shares of {stratify}, keeping the rows of each {group} together, seed {seed}.`,
  methods: [random, stratified, grouped, stratifiedGrouped],
  ask: (table, values) => ({
    table,
    parts: PART_NAMES,
    plan: { ...randomMethod(values), parts: sizes(values), seed: values.seed },
  }),
});
