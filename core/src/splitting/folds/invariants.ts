import type { FoldInvariant } from './fold-splitter.js';
import { at } from '../../foundation/numbers.js';
import { labelsOf } from '../../data/table/labels.js';
import { columnNamed } from '../../data/table/table.js';
import { strataOf } from '../algorithms/strata.js';
import { timelineOf } from '../algorithms/time.js';

const counted = (rows: Int32Array, tests: Int32Array, count: number): number[] => {
  const counts = new Array<number>(count).fill(0);
  for (const row of rows) if (at(tests, row) >= 0) counts[at(tests, row)] = at(counts, at(tests, row)) + 1;
  return counts;
};
const differByOne = (counts: readonly number[]) =>
  counts.reduce((a, b) => Math.max(a, b)) - counts.reduce((a, b) => Math.min(a, b)) <= 1;

export const everyRowIsTested: FoldInvariant = {
  text: 'every row is tested once in each repeat',
  holds: ({ rows }, { tests }) => tests.every((fold) => rows.every((row) => at(fold, row) >= 0)),
};

export const sizesDifferByOne: FoldInvariant = {
  text: 'the sizes of the folds differ by one row at most',
  holds: ({ rows }, { tests, count }) => tests.every((fold) => differByOne(counted(rows, fold, count))),
};

export const strataAreShared: FoldInvariant = {
  text: 'of every value the folds have the same number of rows, to within one',
  holds: ({ table, plan, rows }, { tests, count }) => {
    const { labels, codes } = strataOf(columnNamed(table, plan.stratify ?? ''));
    return tests.every((fold) =>
      labels.every((_, code) =>
        differByOne(
          counted(
            rows.filter((row) => at(codes, row) === code),
            fold,
            count,
          ),
        ),
      ),
    );
  },
};

export const groupsStayWhole: FoldInvariant = {
  text: 'the rows of one group are tested in one fold',
  holds: ({ table, plan, rows }, { tests }) => {
    const { codes } = labelsOf(columnNamed(table, plan.group ?? ''));
    return tests.every((fold) => {
      const foldOf = new Map<number, number>();
      return rows.every((row) => {
        const known = foldOf.get(at(codes, row)) ?? at(fold, row);
        foldOf.set(at(codes, row), known);
        return known === at(fold, row);
      });
    });
  },
};

export const trainsOnThePast: FoldInvariant = {
  text: 'a fold trains on rows that are earlier than all that it tests',
  holds: ({ table, plan, rows }, { tests, count, training }) => {
    const { values } = timelineOf(columnNamed(table, plan.time ?? ''), rows);
    const tested = tests[0] ?? new Int32Array();
    return Array.from({ length: count }, (_, fold) => fold).every((fold) => {
      const first = rows.reduce(
        (least, row) => (at(tested, row) === fold ? Math.min(least, at(values, row)) : least),
        Infinity,
      );
      return training(0, fold).every((row) => at(values, row) < first);
    });
  },
};

export const testsWhatWasNotDrawn: FoldInvariant = {
  text: 'as many rows are drawn as there are, and those that were not drawn are tested',
  holds: ({ rows }, { tests, training }) =>
    tests.every((fold, repeat) => {
      const drawn = training(repeat, 0);
      const names = new Set(drawn);
      return drawn.length === rows.length && rows.every((row) => names.has(row) === at(fold, row) < 0);
    }),
};
