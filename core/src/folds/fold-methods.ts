import { SieveError } from '../errors.js';
import { at, counted } from '../numbers.js';
import { seededRandom, type Random } from '../random/random.js';
import { countGroups } from '../split/group-counts.js';
import { strataOf } from '../split/strata.js';
import { timelineOf } from '../split/time.js';
import { countCodes, labelsOf } from '../table/labels.js';
import { columnNamed, type Table } from '../table/table.js';
import type { FoldPlan, Folds } from './folds.js';
import { drawWithReplacement } from './bootstrap.js';
import { dealGroups } from './deal-groups.js';
import { dealAtRandom, dealStratified } from './deal.js';
import { foldsOverTime } from './over-time.js';

interface Request {
  readonly table: Table;
  readonly plan: FoldPlan;
  /** The rows that take part, ascending; at least two. */
  readonly rows: Int32Array;
  readonly repeats: number;
}

interface FoldMethod {
  /** Name and version. */
  readonly id: string;
  /** As it stands after "folds". */
  readonly title: string;
  readonly needs: readonly (keyof FoldPlan)[];
  /** Whether another seed gives other folds. */
  readonly isDrawn: boolean;
  readonly make: (request: Request) => Omit<Folds, 'method'>;
}

export type FoldMethodName =
  | 'k-fold'
  | 'stratified'
  | 'grouped'
  | 'stratified-grouped'
  | 'leave-one-out'
  | 'leave-one-group-out'
  | 'expanding'
  | 'sliding'
  | 'bootstrap';

/** Every method of making folds. The command line and the documentation are driven by this list. */
export const FOLD_METHODS: Readonly<Record<FoldMethodName, FoldMethod>> = {
  'k-fold': {
    id: 'k-fold@1',
    title: 'at random',
    needs: ['k'],
    isDrawn: true,
    make: (request) =>
      drawn(request, request.plan.k ?? 0, (random, fold) =>
        dealAtRandom(request.rows, request.plan.k ?? 0, random, fold),
      ),
  },
  stratified: {
    id: 'stratified-k-fold@1',
    title: 'stratified by a column',
    needs: ['k', 'stratify'],
    isDrawn: true,
    make: (request) => {
      const { k = 0, stratify = '' } = request.plan;
      const strata = strataOf(columnNamed(request.table, stratify));
      const deal = (random: Random, fold: Int32Array) =>
        dealStratified(request.rows, strata.codes, strata.labels.length, k, random, fold);
      return { ...drawn(request, k, deal), warnings: smallClasses(request, stratify) };
    },
  },
  grouped: {
    id: 'grouped-k-fold@1',
    title: 'by groups',
    needs: ['k', 'group'],
    isDrawn: true,
    make: (request) => groupFolds(request, null),
  },
  'stratified-grouped': {
    id: 'stratified-grouped-k-fold@1',
    title: 'stratified and by groups',
    needs: ['k', 'stratify', 'group'],
    isDrawn: true,
    make: (request) => ({
      ...groupFolds(request, request.plan.stratify ?? ''),
      warnings: smallClasses(request, request.plan.stratify ?? ''),
    }),
  },
  'leave-one-out': {
    id: 'leave-one-out@1',
    title: 'of single rows',
    needs: [],
    isDrawn: false,
    make: ({ table, rows }) => {
      const fold = new Int32Array(table.rowCount).fill(-1);
      rows.forEach((row, i) => {
        fold[row] = i;
      });
      return allButTested(rows, rows.length, [fold]);
    },
  },
  'leave-one-group-out': {
    id: 'leave-one-group-out@1',
    title: 'of single groups',
    needs: ['group'],
    isDrawn: false,
    make: ({ table, plan, rows }) => {
      const { groups, present } = countGroups(rows, columnNamed(table, plan.group ?? ''), null);
      if (present.length < 2) throw tooFewGroups(present.length, plan.group ?? '', 2);
      const foldOf = new Map(present.map((g, fold) => [g, fold]));
      const fold = new Int32Array(table.rowCount).fill(-1);
      for (const row of rows) fold[row] = foldOf.get(at(groups.codes, row)) ?? -1;
      return allButTested(rows, present.length, [fold]);
    },
  },
  expanding: {
    id: 'expanding-window@1',
    title: 'over an expanding window of time',
    needs: ['k', 'time'],
    isDrawn: false,
    make: timeFolds,
  },
  sliding: {
    id: 'sliding-window@1',
    title: 'over a sliding window of time',
    needs: ['k', 'time', 'window'],
    isDrawn: false,
    make: timeFolds,
  },
  bootstrap: {
    id: 'bootstrap@1',
    title: 'of rows drawn with replacement',
    needs: [],
    isDrawn: true,
    make: ({ table, plan, rows, repeats }) => {
      const draws = Array.from({ length: repeats }, (_, repeat) =>
        drawWithReplacement(rows, table.rowCount, randomOf(plan.seed, repeat)),
      );
      return {
        count: 1,
        tests: draws.map((draw) => draw.outOfBag),
        training: (repeat) => at(draws, repeat).drawn,
        warnings: [],
      };
    },
  },
};

/** Each repeat has a stream of its own, so that more repeats leave the first ones as they are. */
const randomOf = (seed: number, repeat: number): Random =>
  seededRandom(seed, repeat === 0 ? 'folds' : `folds ${repeat + 1}`);

function drawn(
  { table, plan, rows, repeats }: Request,
  count: number,
  deal: (random: Random, fold: Int32Array) => void,
): Omit<Folds, 'method'> {
  const tests = Array.from({ length: repeats }, (_, repeat) => {
    const fold = new Int32Array(table.rowCount).fill(-1);
    deal(randomOf(plan.seed, repeat), fold);
    return fold;
  });
  return allButTested(rows, count, tests);
}

/** Folds that train on every row that takes part and is not tested. */
function allButTested(rows: Int32Array, count: number, tests: readonly Int32Array[]): Omit<Folds, 'method'> {
  return {
    count,
    tests,
    training: (repeat, fold) => rows.filter((row) => tests[repeat]?.[row] !== fold),
    warnings: [],
  };
}

function groupFolds(request: Request, stratify: string | null): Omit<Folds, 'method'> {
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

function timeFolds({ table, plan, rows }: Request): Omit<Folds, 'method'> {
  const { k = 0, time = '', window, gap } = plan;
  const timeline = timelineOf(columnNamed(table, time), rows);
  const length = plan.method === 'sliding' ? (window ?? Infinity) : Infinity;
  return foldsOverTime(rows, timeline, table.rowCount, { k, window: length, gap: gap ?? 0 });
}

const tooFewGroups = (found: number, column: string, k: number) =>
  new SieveError(
    'too-few-groups',
    `${counted(found, 'group')} of ${column} cannot make ${counted(k, 'fold')}: each fold needs a group of its own.`,
    { field: column },
  );

/** A class with fewer rows than folds is lacking in some of them. */
function smallClasses({ table, plan, rows }: Request, stratify: string): string[] {
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
