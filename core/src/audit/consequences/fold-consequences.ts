import { check, type Check } from '../../foundation/check.js';
import { at, count, counted } from '../../foundation/numbers.js';
import { stacksOf } from '../../splitting/parts/part-map.js';
import { strataOf } from '../../splitting/algorithms/strata.js';
import { classSharesOf, type ClassShare } from '../quality/class-shares.js';
import { countCodes, labelsOf, type Labelled } from '../../data/table/labels.js';
import type { Roles } from '../../data/table/roles.js';
import { columnNamed, isCoded, type Table } from '../../data/table/table.js';
import { testRows } from '../../splitting/folds/folds.js';
import type { FoldPlan, Folds } from '../../splitting/folds/fold-splitter.js';

/** One fold of the first repeat. */
export interface FoldSummary {
  readonly tested: number;
  readonly training: number;
  /** Of the tested rows, by label in label order; for a numeric target by its fifths. */
  readonly classes: readonly ClassShare[];
  /** Mean of a numeric target over the tested rows. */
  readonly targetMean: number | null;
  /** First and last time of training and of testing, where folds follow time. */
  readonly span: {
    readonly training: readonly [number, number];
    readonly tested: readonly [number, number];
  } | null;
}

/** How many rows of one stack a fold tests. */
export interface FoldCell {
  readonly fold: number;
  readonly stack: string;
  readonly rows: number;
}

export interface FoldConsequences {
  readonly rows: number;
  /** Folds in each repeat, and repeats. */
  readonly count: number;
  readonly repeats: number;
  readonly smallest: number;
  readonly largest: number;
  /** The first folds of the first repeat, at most `MOST_FOLDS`. */
  readonly folds: readonly FoldSummary[];
  readonly labels: readonly string[];
  readonly checks: readonly Check[];
  /** Of the same folds: tested rows by group, or by class. */
  readonly map: readonly FoldCell[];
  readonly time: { readonly column: string; readonly isDate: boolean } | null;
}

/** Folds that are listed one by one. */
export const MOST_FOLDS = 40;
/** Common practice: shares of a class within ten points of each other are near enough between folds. */
const WIDE_SHARES = 0.1;

/**
 * What follows from folds: everything that the desk shows beside the plan.
 *
 * @param usable 1 for each row that takes part
 */
export function foldConsequences(
  table: Table,
  roles: Roles,
  plan: FoldPlan,
  folds: Folds,
  usable: Uint8Array,
): FoldConsequences {
  const target = columnNamed(table, roles.target);
  const classes = roles.task === 'regression' ? strataOf(target) : labelsOf(target);
  const numbers = roles.task === 'regression' && !isCoded(target) ? target.values : null;
  const group = plan.group ?? roles.group;
  const groups = group === null ? null : labelsOf(columnNamed(table, group));
  const time = plan.time === undefined ? null : columnNamed(table, plan.time);
  const times = time && !isCoded(time) ? time.values : null;
  const shown = Array.from({ length: Math.min(folds.count, MOST_FOLDS) }, (_, fold) => ({
    tested: testRows(folds, 0, fold),
    training: folds.training(0, fold),
  }));
  const sizes = countCodes(folds.tests[0] ?? [], folds.count);
  const summaries = shown.map(({ tested, training }): FoldSummary => ({
    tested: tested.length,
    training: training.length,
    classes: classSharesOf(tested, classes, groups),
    targetMean: numbers && tested.length > 0 ? meanOf(numbers, tested) : null,
    span:
      times && training.length > 0
        ? { training: spanOf(times, training), tested: spanOf(times, tested) }
        : null,
  }));
  const stacks = stacksOf(table, group, classes);
  return {
    rows: usable.reduce((n, one) => n + one, 0),
    count: folds.count,
    repeats: folds.tests.length,
    smallest: sizes.reduce((a, b) => Math.min(a, b), Infinity),
    largest: sizes.reduce((a, b) => Math.max(a, b), 0),
    folds: summaries,
    labels: classes.labels,
    checks: [
      ...folds.warnings.map((warning) => check('warning', 'unsure', warning)),
      ...testedCheck(folds, usable, plan.time !== undefined || plan.method === 'bootstrap'),
      ...groupCheck(table, group, shown, plan.time !== undefined),
      ...shareCheck(summaries, classes, roles.target),
    ],
    map: shown.flatMap(({ tested }, fold) =>
      countCodes(
        tested.map((row) => at(stacks.codes, row)),
        stacks.labels.length,
      ).flatMap((rows, stack) => (rows === 0 ? [] : [{ fold, stack: at(stacks.labels, stack), rows }])),
    ),
    time: time && { column: time.name, isDate: time.kind === 'time' },
  };
}

const meanOf = (values: Float64Array, rows: Int32Array): number =>
  rows.reduce((sum, row) => sum + at(values, row), 0) / rows.length;

function spanOf(values: Float64Array, rows: Int32Array): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const row of rows) {
    low = Math.min(low, at(values, row));
    high = Math.max(high, at(values, row));
  }
  return [low, high];
}

/** Whether each row is tested as often as it should be; the first rows over time and drawn rows never are. */
function testedCheck(folds: Folds, usable: Uint8Array, isByIntent: boolean): Check[] {
  const never = (folds.tests[0] ?? new Int32Array()).reduce(
    (n, fold, row) => (usable[row] === 1 && fold < 0 ? n + 1 : n),
    0,
  );
  return [
    never === 0
      ? check('tested', 'holds', 'Every row is tested once in each repeat')
      : check(
          'tested',
          isByIntent ? 'holds' : 'unsure',
          `${counted(never, 'row is', 'rows are')} never tested in the first repeat`,
          isByIntent ? { measured: 'they are trained on, as the plan has it' } : { expected: 'none' },
        ),
  ];
}

/** Whether rows of one group are on both sides of any fold that is shown. */
function groupCheck(
  table: Table,
  name: string | null,
  shown: readonly { readonly tested: Int32Array; readonly training: Int32Array }[],
  followsTime: boolean,
): Check[] {
  if (name === null) return [];
  const { codes, labels } = labelsOf(columnNamed(table, name));
  const crossing = new Set<number>();
  for (const { tested, training } of shown) {
    const learned = new Uint8Array(labels.length);
    for (const row of training) if (at(codes, row) >= 0) learned[at(codes, row)] = 1;
    for (const row of tested)
      if (at(codes, row) >= 0 && learned[at(codes, row)] === 1) crossing.add(at(codes, row));
  }
  return [
    crossing.size === 0
      ? check('groups', 'holds', `No ${name} is trained on and tested in the same fold`)
      : check('groups', followsTime ? 'unsure' : 'fails', `Rows of one ${name} are on both sides of a fold`, {
          measured: `${count(crossing.size)} of ${count(labels.length)} split across folds`,
          expected: followsTime
            ? 'none split across folds, unless later rows of the same groups are to be predicted'
            : 'none split across folds: rows of one group resemble one another',
          examples: [...crossing]
            .slice(0, 5)
            .map((code) => ({ line: null, column: null, text: at(labels, code) })),
        }),
  ];
}

/** How far the shares of a class lie apart between folds, where folds test more than a row or two. */
function shareCheck(folds: readonly FoldSummary[], { labels }: Labelled, target: string): Check[] {
  if (folds.length < 2 || folds.some(({ tested }) => tested < 10)) return [];
  let widest = { label: '', low: 0, high: 0 };
  labels.forEach((label, code) => {
    const shares = folds.map(({ classes }) => classes[code]?.share ?? 0);
    const [low, high] = [Math.min(...shares), Math.max(...shares)];
    if (high - low > widest.high - widest.low) widest = { label, low, high };
  });
  const points = ((widest.high - widest.low) * 100).toFixed(1);
  const percent = (share: number) => `${(share * 100).toFixed(1)} %`;
  return [
    check(
      'shares',
      widest.high - widest.low < WIDE_SHARES ? 'holds' : 'unsure',
      `Shares of ${target} within ${points} points of each other`,
      widest.label === ''
        ? {}
        : {
            measured: `widest: “${widest.label}”, ${percent(widest.low)} to ${percent(widest.high)}`,
            expected: 'within 10 points (common practice)',
          },
    ),
  ];
}
