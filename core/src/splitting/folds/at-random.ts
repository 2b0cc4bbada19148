import { at, counted } from '../../foundation/numbers.js';
import type { Random } from '../../foundation/random/random.js';
import { countCodes, labelsOf } from '../../data/table/labels.js';
import { columnNamed } from '../../data/table/table.js';
import { dealAtRandom, dealStratified } from '../algorithms/deal.js';
import { dealGroups } from '../algorithms/deal-groups.js';
import { countGroups } from '../algorithms/group-counts.js';
import { strataOf } from '../algorithms/strata.js';
import { foldSplitter, type FoldMethod, type FoldRequest, type MadeFolds } from './fold-splitter.js';
import { everyRowIsTested, groupsStayWhole, sizesDifferByOne, strataAreShared } from './invariants.js';
import { allButTested, randomOf, tooFewGroups } from './made-folds.js';
import { k, repeats, seed } from './parameters.js';

const kFold: FoldMethod = {
  name: 'k-fold',
  id: 'k-fold@1',
  title: 'at random',
  needs: ['k'],
  isRandom: true,
  chosenBy: [],
  invariants: [everyRowIsTested, sizesDifferByOne],
  make: (request) =>
    drawn(request, request.plan.k ?? 0, (random, fold) =>
      dealAtRandom(request.rows, request.plan.k ?? 0, random, fold),
    ),
};

const stratified: FoldMethod = {
  name: 'stratified',
  id: 'stratified-k-fold@1',
  title: 'stratified by a column',
  needs: ['k', 'stratify'],
  isRandom: true,
  chosenBy: ['stratify'],
  invariants: [everyRowIsTested, sizesDifferByOne, strataAreShared],
  make: (request) => {
    const { k = 0, stratify = '' } = request.plan;
    const strata = strataOf(columnNamed(request.table, stratify));
    const deal = (random: Random, fold: Int32Array) =>
      dealStratified(request.rows, strata.codes, strata.labels.length, k, random, fold);
    return { ...drawn(request, k, deal), warnings: smallClasses(request, stratify) };
  },
};

const grouped: FoldMethod = {
  name: 'grouped',
  id: 'grouped-k-fold@1',
  title: 'by groups',
  needs: ['k', 'group'],
  isRandom: true,
  chosenBy: ['group'],
  invariants: [everyRowIsTested, groupsStayWhole],
  make: (request) => groupFolds(request, null),
};

const stratifiedGrouped: FoldMethod = {
  name: 'stratified-grouped',
  id: 'stratified-grouped-k-fold@1',
  title: 'stratified and by groups',
  needs: ['k', 'stratify', 'group'],
  isRandom: true,
  chosenBy: ['stratify', 'group'],
  invariants: [everyRowIsTested, groupsStayWhole],
  make: (request) => ({
    ...groupFolds(request, request.plan.stratify ?? ''),
    warnings: smallClasses(request, request.plan.stratify ?? ''),
  }),
};

function drawn(
  { table, plan, rows, repeats }: FoldRequest,
  count: number,
  deal: (random: Random, fold: Int32Array) => void,
): MadeFolds {
  const tests = Array.from({ length: repeats }, (_, repeat) => {
    const fold = new Int32Array(table.rowCount).fill(-1);
    deal(randomOf(plan.seed, repeat), fold);
    return fold;
  });
  return allButTested(rows, count, tests);
}

function groupFolds(request: FoldRequest, stratify: string | null): MadeFolds {
  const { table, plan, rows } = request;
  const { k = 0, group = '' } = plan;
  const strata = stratify === null ? null : strataOf(columnNamed(table, stratify));
  const { groups, present, counts } = countGroups(rows, columnNamed(table, group), strata);
  if (present.length < k) throw tooFewGroups(present.length, group, k);
  return drawn(request, k, (random, fold) => {
    const foldOf = new Int32Array(groups.labels.length).fill(-1);
    dealGroups(counts, k, random).forEach((f, i) => {
      foldOf[at(present, i)] = f;
    });
    for (const row of rows) fold[row] = at(foldOf, at(groups.codes, row));
  });
}

/** A class with fewer rows than folds is lacking in some of them. */
function smallClasses({ table, plan, rows }: FoldRequest, stratify: string): string[] {
  const column = columnNamed(table, stratify);
  const strata = column.kind === 'text' ? labelsOf(column) : strataOf(column);
  const counts = countCodes(
    rows.map((row) => at(strata.codes, row)),
    strata.labels.length,
  );
  const { k = 0 } = plan;
  return strata.labels.flatMap((label, code) => {
    const n = at(counts, code);
    if (n === 0 || n >= k) return [];
    return [
      `“${label}” of ${stratify} has ${counted(n, 'row')}, fewer than the ${k} folds: some folds test none.`,
    ];
  });
}

export const foldsAtRandom = foldSplitter({
  key: 'draw',
  title: 'at random',
  about:
    'Each row is tested once in each repeat. Equal shares of a column’s values in every fold where one is named, whole groups where a column of groups is.',
  parameters: {
    k,
    stratify: { type: 'column', label: 'stratify by', none: 'nothing' },
    group: { type: 'column', label: 'group by', none: 'column: none' },
    repeats: repeats(1),
    seed,
  },
  sentence: () =>
    'Assign the rows to {k} folds, with equal shares of {stratify}, keeping the rows of each {group} together, {repeats} times, seed {seed}.',
  methods: [kFold, stratified, grouped, stratifiedGrouped],
  ask: ({ stratify, group, ...values }) => {
    const byRows = stratify === '' ? kFold : stratified;
    const byGroups = stratify === '' ? grouped : stratifiedGrouped;
    return {
      method: (group === '' ? byRows : byGroups).name,
      ...values,
      ...(stratify === '' ? {} : { stratify }),
      ...(group === '' ? {} : { group }),
    };
  },
});
